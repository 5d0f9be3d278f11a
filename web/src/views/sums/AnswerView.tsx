import { figure, GAP } from "../../parts/numbers";
import { Plate } from "../../plate/Plate";
import { Pour } from "../../river/Pour";
import { Strip } from "./Strip";
import type { Answer, Sum } from "./useSum";

interface AnswerViewProps {
  sum: Sum;
  figures: Record<string, string>;
  answer: Answer;
  here: boolean;
}

/** The answer large, then what follows from it, its picture, and the working behind it. */
export function AnswerView({ sum, figures, answer, here }: AnswerViewProps) {
  const [first, ...rest] = answer.figures;
  if (!first) return null;
  const spot = answer.spots.at(-1);
  return (
    <>
      <p className="leading-none">
        <span className="block text-[17px] text-soft">{first.name}</span>
        <output className="worked font-head text-[clamp(46px,11vw,72px)] font-extrabold">{said(first)}</output>
        <span className="ml-2 text-[24px] text-soft">{first.unit}</span>
        <Spread low={first.low} high={first.high} />
      </p>
      <dl className="grid grid-cols-[1fr_auto] gap-x-4 text-[16px]">
        {rest.map((item) => (
          <div key={item.name} className="contents">
            <dt className="border-t border-line py-1.5 text-soft">{item.name}</dt>
            <dd className="border-t border-line py-1.5 text-right">
              <span className="figures worked font-bold">{said(item)}</span>
              <span className="ml-1 text-[14px] text-soft">{item.unit}</span>
              <Spread low={item.low} high={item.high} />
            </dd>
          </div>
        ))}
      </dl>
      {answer.parts.length > 1 ? <Pour parts={answer.parts} /> : answer.spots.length ? null : <Strip item={first} />}
      {spot && (spot.sugar > 0 || spot.acid > 0) ? (
        <div className="max-w-[420px]">
          <Plate spot={{ sugar: spot.sugar, acid: spot.acid, sugarHalf: 0, acidHalf: 0 }} pins={answer.spots.slice(0, -1)} flag={null} />
          <p className="text-[14px] text-soft">
            {answer.spots.length > 1 ? `Open ring: ${answer.spots[0]?.name}. Full spot: ${spot.name}.` : spot.name}
          </p>
        </div>
      ) : null}
      {answer.remarks.map((text) => (
        <p key={text} className="rounded-xl border-l-4 border-sugar bg-quiet px-3 py-2 text-[15px]">
          {text}
        </p>
      ))}
      {here ? (
        <p className="text-[14px] font-semibold text-warn">
          Worked out on this device{sum.asks.some((ask) => ask.material) ? ", with typical materials: what the house read is not here" : ""}
          .
        </p>
      ) : null}
      <details className="rounded-xl border border-line px-3 py-1 text-[15px]">
        <summary className="min-h-11 cursor-pointer py-2 font-semibold text-rim">The working</summary>
        <p className="pb-1">{answer.formula}</p>
        <p className="pb-1 text-soft">
          {sum.asks
            .filter((ask) => figures[ask.name] || ask.usual !== null)
            .map((ask) => `${ask.label} ${figures[ask.name] || ask.usual}${ask.unit ? GAP : ""}${ask.unit}`)
            .join(" · ")}
        </p>
        <p className="pb-1 text-soft">How exact: {sum.error}.</p>
        <p className="pb-2 text-soft">Source: {answer.source}.</p>
      </details>
    </>
  );
}

/** Drops, serves and the like are whole. */
const said = ({ value, unit }: Answer["figures"][number]) =>
  figure(value, Number.isInteger(value) && ["", "drops"].includes(unit) ? 0 : undefined);

function Spread({ low, high }: { low: number | null; high: number | null }) {
  if (low === null || high === null) return null;
  return (
    <span className="figures ml-2 text-[14px] text-soft">
      {figure(low)} to {figure(high)}
    </span>
  );
}
