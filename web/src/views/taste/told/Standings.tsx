import type { Schemas } from "../../../api/client";
import { figure } from "../../../parts/numbers";
import { contentsWords } from "../plan/plan";
import { dotPlaces, scaleOf } from "./dots";
import { tasterName } from "./tasters";

interface StandingsProps {
  panel: Schemas["PanelOut"];
  results: Schemas["PanelResults"];
}

const WIDTH = 380;

/** Where the samples stand, the best first: each dot a taster, the bar where the mean lies in nine of ten panels. */
export function Standings({ panel, results }: StandingsProps) {
  const { least, most, about } = scaleOf(panel);
  return (
    <section className="tray p-4 md:p-5" aria-label="How they stand">
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="text-[20px]">How they stand</h2>
        <p className="text-[15px] text-soft">{about}</p>
      </div>
      <ul>
        {results.standings.map((row) => {
          const sample = panel.samples[row.sample];
          const chosen = row.dots.filter((dot) => dot.value === 1).length;
          const shown = row.figure ? figure(row.figure.value, 1) : String(chosen);
          const x = (value: number) => 10 + ((WIDTH - 20) * (value - least)) / (most - least);
          return (
            <li
              key={row.sample}
              className="grid items-center gap-x-4 border-t border-line py-2 sm:grid-cols-[minmax(0,15rem)_minmax(0,1fr)_auto]"
            >
              <span>
                {row.codes.length <= panel.rounds ? (
                  <span className="figures mr-2 rounded-lg border border-line bg-quiet px-2 py-0.5 font-bold">{row.codes.join(" ")}</span>
                ) : null}
                <b>{sample?.short}</b>
                <span className="block text-[15px] text-soft">{sample ? contentsWords(sample) : ""}</span>
              </span>
              {panel.method === "paired" ? (
                <span className="text-soft">
                  chosen {chosen} of {row.dots.length} times
                </span>
              ) : (
                <svg viewBox={`0 0 ${WIDTH} 52`} className="w-full" role="img" aria-label={`${sample?.short}: ${shown}`}>
                  <path d={`M10 44H${WIDTH - 10}`} stroke="var(--line)" strokeWidth="2" />
                  {row.figure && row.figure.high > row.figure.low ? (
                    <path d={`M${x(row.figure.low)} 44H${x(row.figure.high)}`} stroke="var(--rim)" strokeWidth="9" strokeLinecap="round" />
                  ) : null}
                  {dotPlaces(row.dots, x).map(({ dot, at, up }) => (
                    <circle
                      key={`${dot.seat} ${dot.round}`}
                      cx={at}
                      cy={32 - 11 * up}
                      r="5"
                      fill="var(--enamel)"
                      stroke="var(--rim)"
                      strokeWidth="1.6"
                    >
                      <title>{`${tasterName(panel, dot.seat)}: ${figure(dot.value, 1)}`}</title>
                    </circle>
                  ))}
                </svg>
              )}
              <b className="figures worked text-[22px]">{shown}</b>
            </li>
          );
        })}
      </ul>
      {results.words.length ? (
        <ul className="mt-2 grid gap-1 border-t border-line pt-2 text-[15px] text-soft">
          {results.words.map((item) => (
            <li key={`${item.seat} ${item.codes.join()} ${item.word}`}>
              <span className="figures">{item.codes.join(" ")}</span> “{item.word}” {tasterName(panel, item.seat)}
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}
