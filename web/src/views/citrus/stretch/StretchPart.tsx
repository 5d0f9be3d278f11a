import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, unwrap } from "../../../api/client";
import { FIGURES } from "../../../api/figures";
import { USUAL } from "../../../api/rules";
import { canLead, useMoney, useSession } from "../../../app/session";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Notice, Trouble } from "../../../parts/Notice";
import { figure, GAP, typed, withoutUnit, withUnit } from "../../../parts/numbers";
import { Plate } from "../../../plate/Plate";
import { Pour } from "../../../river/Pour";
import { FruitChoice } from "../shared/FruitChoice";
import { useLive } from "../shared/useLive";

const FIELDS = ["juice_ml", "times", "target", "peel_g", "most_oil_mg_l"];
const SCHOOLS = [
  { value: "rest", word: "Acids rest on the peel", about: "two hours; oil of the peel, clear of pulp" },
  { value: "blend", word: "Blended", about: "minutes; more oil and pulp to strain" },
] as const;

/** Any citrus to so many times its juice: what goes in, how it stands beside fresh, what it saves. */
export function StretchPart() {
  const money = useMoney();
  const session = useSession();
  const go = useNavigate();
  const [form, setForm] = useState({
    fruit: "bergamot",
    juice_ml: String(USUAL.stretched_ml),
    times: String(USUAL.stretched_times),
    target: "",
    peel_g: "",
    most_oil_mg_l: "",
  });
  const [school, setSchool] = useState<"rest" | "blend">("rest");
  const put = (key: keyof typeof form) => (value: string) => setForm((before) => ({ ...before, [key]: value }));
  const number = (key: keyof typeof form) => (form[key].trim() ? typed(form[key]) : null);
  const asked = {
    fruit: form.fruit,
    juice_ml: number("juice_ml") ?? 0,
    times: number("times") ?? 0,
    school,
    target: number("target"),
    peel_g: number("peel_g"),
    most_oil_mg_l: number("most_oil_mg_l"),
  };
  const { made, fault, elsewhere } = useLive(
    "stretch",
    asked,
    (body, signal) => unwrap(client.POST("/api/citrus/stretch", { body, signal })),
    FIELDS,
  );
  const spec = useMutation({
    mutationFn: () => unwrap(client.POST("/api/citrus/stretch/spec", { body: asked })),
    onSuccess: ({ spec: id }) => void go(`/specs/${id}`),
  });
  const acids = Object.entries(made?.acids_g ?? {});
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[340px_minmax(0,1fr)]">
      <section className="tray grid content-start gap-3 p-4" aria-label="What is stretched">
        <FruitChoice value={form.fruit} onChange={put("fruit")} />
        <Field label="Its juice" unit="mL" inputMode="decimal" value={form.juice_ml} onChange={put("juice_ml")} fault={fault("juice_ml")} />
        <Field label="To so many times" inputMode="decimal" value={form.times} onChange={put("times")} fault={fault("times")} />
        <fieldset className="grid gap-2">
          <legend className="mb-1 text-[14px] text-soft">School</legend>
          {SCHOOLS.map((item) => (
            <Button
              key={item.value}
              look={school === item.value ? "main" : "plain"}
              aria-pressed={school === item.value}
              onClick={() => setSchool(item.value)}
              className="justify-start py-1.5 text-left"
            >
              <span>
                {item.word}
                <span className="block text-[14px] font-normal">{item.about}</span>
              </span>
            </Button>
          ))}
        </fieldset>
        <Field
          label="Acid to reach"
          unit={FIGURES.acid_g_100ml.unit}
          inputMode="decimal"
          value={form.target}
          onChange={put("target")}
          placeholder={made ? withoutUnit("acid_g_100ml", made.fresh.acid_g_100ml ?? 0) : ""}
          fault={fault("target")}
        />
        <Field
          label="Peel weighed"
          unit="g"
          inputMode="decimal"
          value={form.peel_g}
          onChange={put("peel_g")}
          placeholder={made ? figure(made.peel_g, 0) : ""}
          fault={fault("peel_g")}
        />
        <Field
          label="Oil at most"
          unit="mg/L"
          inputMode="decimal"
          value={form.most_oil_mg_l}
          onChange={put("most_oil_mg_l")}
          placeholder={String(USUAL.stretched_oil_mg_l)}
          fault={fault("most_oil_mg_l")}
        />
      </section>
      <section className="grid content-start gap-4" aria-label="What it becomes">
        {elsewhere ? (
          <Notice severity="stop" live>
            {elsewhere}
          </Notice>
        ) : null}
        {made ? (
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
                  {withUnit("acid_g_100ml", made.fresh.acid_g_100ml ?? 0)}, oil {figure(made.oil_mg_l.value, 0)} (
                  {figure(made.oil_mg_l.low, 0)} to {figure(made.oil_mg_l.high, 0)}) for about {figure(made.fresh.oil_mg_l ?? 0, 0)} mg/L.
                  Thinner in body, sharper at the edge, more of the skin.
                </p>
              </div>
            </div>
            <div className="tray grid gap-x-8 gap-y-2 p-4 md:grid-cols-3">
              <Fact word="fruit saved" value={`${figure(100 * made.fruit_saved, 0)}${GAP}%`} />
              <Fact
                word="a litre, against fresh"
                value={
                  made.cost_litre === null
                    ? "no price yet"
                    : `${money(String(made.cost_litre))} for ${money(String(made.fresh_litre ?? 0))}`
                }
              />
              <Fact word="reckoned from" value={made.from_what} />
              {canLead(session) ? (
                <div className="md:col-span-3">
                  <Button onClick={() => spec.mutate()} disabled={spec.isPending}>
                    Make a spec of it
                  </Button>
                  <Trouble error={spec.error} />
                </div>
              ) : null}
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
        ) : null}
      </section>
    </div>
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
