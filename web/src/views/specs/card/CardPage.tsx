import { GAP } from "../../../parts/numbers";
import type { Card } from "./asked";

/** The card itself: gear, steps with amounts, how it keeps and what to look out for. */
export function CardPage({ made }: { made: Card }) {
  const { labels } = made;
  const facts = [
    [labels.reads, made.reads.join(" · ")],
    [labels.keeps, made.keeps],
    [labels.allergens, made.allergens],
    [labels.free_from, made.free_from],
    [labels.options, made.options.join(", ")],
    ...made.cautions.map((caution, n) => [n ? "" : labels.cautions, caution]),
  ];
  return (
    <article className="tray p-5 md:p-7" lang={made.language}>
      <h1 className="text-[26px] sm:text-[34px]">{made.name}</h1>
      <p className="text-soft">
        {made.family ? `${made.family} · ` : ""}
        {labels.version} {made.number} · {made.author}
      </p>
      <p className="mt-1 text-[18px]">
        <b>
          {labels.makes} {made.makes}
        </b>{" "}
        <span className="text-soft">
          · {labels.takes} {made.takes}
        </span>
      </p>
      <p className="my-3 border-y border-rim py-2">
        <b>{labels.gear}:</b> {made.gear.join(", ")}
      </p>
      <ol>
        {made.steps.map((step) => (
          <li
            key={step.id}
            className="grid grid-cols-[34px_1fr] gap-x-3 border-b border-line py-3 sm:grid-cols-[34px_1fr_minmax(220px,42%)]"
          >
            <span className="figures text-[22px] font-bold text-rim">{step.number}</span>
            <div>
              {step.place ? <p className="text-[14px] font-semibold text-rim">{step.place}</p> : null}
              <p className="text-[18px] font-bold">{step.title}</p>
              {step.note ? (
                <p className="text-soft">
                  {step.note}
                  {made.marks ? <i> ({labels.as_written})</i> : null}
                </p>
              ) : null}
              {step.check ? <p className="text-soft">{step.check}</p> : null}
            </div>
            <ul className="col-start-2 grid gap-1 sm:col-start-3">
              {step.lines.map((line) => (
                <li key={line.id} className="flex items-baseline justify-between gap-3">
                  <span>
                    {line.name}
                    <span className="block text-[14px] text-soft">{line.how}</span>
                  </span>
                  <span className="figures text-right text-[20px] font-bold whitespace-nowrap">
                    {line.amount}
                    {line.beside ? (
                      <span className="block text-[14px] font-normal text-soft">
                        {GAP}
                        {line.beside}
                      </span>
                    ) : null}
                  </span>
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
      <dl className="mt-4 grid gap-x-4 gap-y-1 sm:grid-cols-[11rem_1fr]">
        {facts.map(([name, text]) =>
          text ? (
            <div key={`${name}${text}`} className="contents">
              <dt className="font-bold">{name}</dt>
              <dd>{text}</dd>
            </div>
          ) : null,
        )}
      </dl>
      <p className="mt-3 text-[14px] text-soft">{labels.follow}</p>
    </article>
  );
}
