import type { ReactNode } from "react";
import type { Schemas } from "../../../api/client";
import { Notice } from "../../../parts/Notice";
import { figure, GAP, withoutUnit, withUnit } from "../../../parts/numbers";
import { Plate } from "../../../plate/Plate";
import { Pour } from "../../../river/Pour";
import { useMoney } from "../../../session/session";

/** What a stretched juice is made of, how it stands beside fresh, what it saves; `children` is what may be done with it. */
export function StretchAnswer({ made, children }: { made: Schemas["StretchOut"]; children: ReactNode }) {
  const money = useMoney();
  const acids = Object.entries(made.acids_g);
  return (
    <>
      <div className="tray grid gap-4 p-4 xl:grid-cols-2">
        <div>
          <p className="text-soft">Makes</p>
          <p className="font-head text-[46px] leading-none font-extrabold">
            <span className="worked">{figure(made.volume_ml / 1000, 2)}</span>
            <span className="ml-1 text-[20px] font-normal text-soft">L</span>
          </p>
          <table className="mt-3 w-full text-[16px]">
            <tbody>
              {[
                ["juice", made.juice_ml, "mL"] as const,
                ...acids.map(([key, grams]) => [key.replaceAll("_", " "), grams, "g"] as const),
                ["zest or peel, weighed", made.peel_g, "g"] as const,
                ["water, about", made.water_g, "g"] as const,
              ].map(([name, value, unit]) => (
                <tr key={name} className="border-t border-line">
                  <th scope="row" className="py-1.5 text-left font-normal">
                    {name}
                  </th>
                  <td className="figures text-right font-bold">{figure(value)}</td>
                  <td className="pl-1 text-[14px] text-soft">{unit}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="mt-3">
            <Pour
              parts={[
                { name: "juice", amount: made.juice_ml, unit: "mL", kind: "rest" },
                ...acids.map(([key, grams]) => ({ name: key.replaceAll("_", " "), amount: grams, unit: "g", kind: "acid" })),
                { name: "water", amount: made.water_g, unit: "g", kind: "water" },
              ]}
            />
          </div>
        </div>
        <div className="max-w-[440px]">
          <Plate
            spot={{ sugar: made.sugar_g_100ml, acid: made.acid_g_100ml, sugarHalf: 0, acidHalf: 0 }}
            pins={[{ name: "fresh", sugar: made.fresh.sugar_g_100ml ?? 0, acid: made.fresh.acid_g_100ml ?? 0 }]}
            flag={null}
          />
          <p className="text-[15px]">
            Against fresh (open ring): sugar {withoutUnit("sugar_g_100ml", made.sugar_g_100ml)} for{" "}
            {withoutUnit("sugar_g_100ml", made.fresh.sugar_g_100ml ?? 0)}, acid {withoutUnit("acid_g_100ml", made.acid_g_100ml)} for{" "}
            {withUnit("acid_g_100ml", made.fresh.acid_g_100ml ?? 0)}, oil {figure(made.oil_mg_l.value, 0)} ({figure(made.oil_mg_l.low, 0)}{" "}
            to {figure(made.oil_mg_l.high, 0)}) for about {figure(made.fresh.oil_mg_l ?? 0, 0)} mg/L. Thinner in body, sharper at the edge,
            more of the skin.
          </p>
        </div>
      </div>
      <div className="tray grid gap-x-8 gap-y-2 p-4 md:grid-cols-3">
        <Fact word="fruit saved" value={`${figure(100 * made.fruit_saved, 0)}${GAP}%`} />
        <Fact
          word="a litre, against fresh"
          value={
            made.cost_litre === null ? "no price yet" : `${money(String(made.cost_litre))} for ${money(String(made.fresh_litre ?? 0))}`
          }
        />
        <Fact word="reckoned from" value={made.from_what} />
        {children}
        <div className="md:col-span-3">
          {made.keeps.map((text) => (
            <p key={text}>{text}</p>
          ))}
        </div>
      </div>
      <div className="grid gap-4 md:grid-cols-2">
        <Mixers title="Doses of equal acid" serve={made.serve_ml} items={made.equal_acid} />
        <Mixers title="Doses of equal sugar" serve={made.serve_ml} items={made.equal_sugar} />
      </div>
      {made.remarks.map((text) => (
        <Notice key={text} severity="note">
          {text}
        </Notice>
      ))}
    </>
  );
}

function Fact({ word, value }: { word: string; value: string }) {
  return (
    <p>
      <span className="block text-[14px] text-soft">{word}</span>
      <b className="text-[19px]">{value}</b>
    </p>
  );
}

interface MixersProps {
  title: string;
  serve: number;
  items: readonly { name: string; dose_ml: number; sugar_g: number; acid_g: number }[];
}

/** Sours of this house beside each other, each at the dose that brings the same. */
function Mixers({ title, serve, items }: MixersProps) {
  return (
    <section className="tray p-4" aria-label={title}>
      <h2 className="mb-1 text-[18px]">{title}</h2>
      <table className="w-full text-[15px]">
        <thead>
          <tr className="text-right text-[14px] text-soft">
            <th scope="col" className="text-left font-normal">
              as {figure(serve, 0)}
              {GAP}mL of fresh
            </th>
            <th scope="col" className="font-normal">
              mL
            </th>
            <th scope="col" className="font-normal">
              sugar g
            </th>
            <th scope="col" className="font-normal">
              acid g
            </th>
          </tr>
        </thead>
        <tbody>
          {items.map((item) => (
            <tr key={item.name} className="border-t border-line">
              <th scope="row" className="py-1.5 text-left font-normal">
                {item.name}
              </th>
              <td className="figures text-right font-bold">{figure(item.dose_ml, 1)}</td>
              <td className="figures text-right">{figure(item.sugar_g, 2)}</td>
              <td className="figures text-right">{figure(item.acid_g, 2)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
