import type { Schemas } from "../../../api/client";
import { tasterName } from "./tasters";

interface RightAnswersProps {
  panel: Schemas["PanelOut"];
  results: Schemas["PanelResults"];
}

/** Each dot an answer: full where it was right. */
export function RightAnswers({ panel, results }: RightAnswersProps) {
  const dots = results.standings[0]?.dots ?? [];
  const seats = [...new Set(dots.map((dot) => dot.seat))].sort((one, other) => one - other);
  const words = new Map(results.words.map((item) => [item.seat, item.word]));
  if (!seats.length) return null;
  return (
    <section className="tray p-4 md:p-5" aria-label="Who was right">
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="text-[20px]">Who was right</h2>
        <p className="text-[15px] text-soft">each dot an answer · full: right</p>
      </div>
      <ul className="grid gap-x-8 sm:grid-cols-2">
        {seats.map((seat) => {
          const mine = dots.filter((dot) => dot.seat === seat).sort((one, other) => one.round - other.round);
          const right = mine.filter((dot) => dot.value === 1).length;
          return (
            <li key={seat} className="border-t border-line py-2">
              <div className="flex items-center justify-between gap-3">
                <span className="font-semibold">{tasterName(panel, seat)}</span>
                <svg viewBox={`0 0 ${mine.length * 22} 22`} className="h-5.5" role="img" aria-label={`${right} of ${mine.length} right`}>
                  {mine.map((dot, n) => (
                    <circle
                      key={dot.round}
                      cx={11 + 22 * n}
                      cy="11"
                      r="7.5"
                      fill={dot.value === 1 ? "var(--rim)" : "none"}
                      stroke="var(--rim)"
                      strokeWidth="2"
                    />
                  ))}
                </svg>
              </div>
              {words.has(seat) ? <p className="text-[15px] text-soft">“{words.get(seat)}”</p> : null}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
