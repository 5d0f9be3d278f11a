import { memo } from "react";
import type { Schemas } from "../../../api/client";
import { FIGURES, type FigureKey } from "../../../api/figures";
import { Figure } from "../../../parts/Figure";
import { figure, GAP, withoutUnit } from "../../../parts/numbers";
import { useMoney } from "../../../session/session";

export interface InTheBottleProps {
  final: Schemas["FinalResult"] | null;
  /** A drink stands in its glass: a serve of it counts, and nobody keeps it. */
  drink: boolean;
  /** What one serve costs. */
  serveCost: string | null;
  onWorking: (name: string) => void;
}

const READING = { brix_reading: "refractometer reading", acid_g_100ml: "titration" } as const;

/** The finished product: yield, strength, keeping, cost, and which one reading would tell most. */
export const InTheBottle = memo(function InTheBottle({ final, drink, serveCost, onWorking }: InTheBottleProps) {
  const money = useMoney();
  if (!final) {
    return (
      <section className="tray p-4">
        <h2 className="text-[20px]">In the bottle</h2>
        <p className="mt-2 text-soft">
          Nothing yet. Put something in the first step, and its sugar, acid, yield, keeping and cost stand here.
        </p>
      </section>
    );
  }
  const litres = { value: final.volume_ml.value / 1000, half: (final.volume_ml.high - final.volume_ml.low) / 2000 };
  return (
    <section className="tray p-4" aria-label={drink ? "In the glass" : "In the bottle"}>
      <h2 className="mb-2 text-[20px]">{drink ? "In the glass" : "In the bottle"}</h2>
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2.5">
        <div>
          <dt className="text-[14px] text-soft">yield</dt>
          <dd>
            <button
              type="button"
              className="-mx-1 min-h-11 rounded-lg px-1 md:min-h-0"
              onClick={() => onWorking("volume_ml")}
              aria-label="Yield. Show the working"
            >
              <span className="worked font-head text-[25px] leading-none font-bold">{figure(litres.value, 2)}</span>
              <span className="ml-1.5 text-[14px] text-soft">
                L
                {litres.half >= 0.005 ? (
                  <span className="figures spread ml-1">
                    ±{GAP}
                    {figure(litres.half, 2)}
                  </span>
                ) : null}
              </span>
            </button>
          </dd>
        </div>
        <div>
          <dt className="text-[14px] text-soft">serves</dt>
          <dd className="worked font-head text-[25px] leading-none font-bold">
            {final.serves < 10 ? figure(final.serves, 1) : Math.floor(final.serves)}
          </dd>
        </div>
        <div>
          <dt className="text-[14px] text-soft">solids</dt>
          <dd>
            <Figure name="brix" data={final.brix} size="big" label="Solids" onWorking={() => onWorking("brix")} />
          </dd>
        </div>
        <div>
          <dt className="text-[14px] text-soft">acid, g per 100 mL</dt>
          <dd>
            <Figure
              name="acid_g_100ml"
              data={final.acid_g_100ml}
              size="big"
              label="Acid"
              unitWord=""
              onWorking={() => onWorking("acid_g_100ml")}
            />
          </dd>
        </div>
        {final.abv.value > FIGURES.abv.shownFrom ? (
          <div>
            <dt className="text-[14px] text-soft">strength</dt>
            <dd>
              <Figure name="abv" data={final.abv} size="big" label="Alcohol" onWorking={() => onWorking("abv")} />
            </dd>
          </div>
        ) : null}
        {drink ? null : (
          <div>
            <dt className="text-[14px] text-soft">
              keeps at {final.keeping.at_most_c}
              {GAP}°C
            </dt>
            <dd>
              <span className="worked font-head text-[25px] leading-none font-bold">{final.keeps_days}</span>
              <span className="ml-1.5 text-[14px] text-soft">days</span>
            </dd>
          </div>
        )}
        <div>
          <dt className="text-[14px] text-soft">{drink ? "a serve costs" : "a litre costs"}</dt>
          <dd className="worked font-head text-[25px] leading-none font-bold">
            {money(drink ? (serveCost ?? final.cost) : final.cost_per_litre)}
          </dd>
        </div>
      </dl>
      <div className="mt-3 grid gap-2 text-[14px]">
        {final.narrowing.slice(0, 1).map((found) => (
          <p key={found.property} className="rounded-xl bg-quiet p-3">
            Most of the ± is {found.name.toLowerCase()}. <b>One {READING[found.reading as keyof typeof READING] ?? "reading"}</b> of this
            delivery makes it{" "}
            <span className="figures whitespace-nowrap">
              ±{GAP}
              {withoutUnit(found.property as FigureKey, found.half_then)}
            </span>
            .
          </p>
        ))}
      </div>
    </section>
  );
});
