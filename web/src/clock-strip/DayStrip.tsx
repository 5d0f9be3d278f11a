import { Sideways } from "../parts/Sideways";
import { clock } from "../parts/say";
import { type DayBatch, daySpan, packed, waitsOf, within } from "./dayLayout";
import { isUnderNow } from "./layout";

const HEAD = 40;
const LANE = 44;
const WAIT_LANE = 30;
const NAMES = 92;
/** Narrower than this the strip is scrolled [px]. */
const LEAST_WIDTH = 560;

export interface DayStripProps {
  rows: readonly DayBatch[];
  people: readonly { name: string; away: boolean }[];
  now: number;
  /** When the house opens today. */
  opens: number;
  zone: string;
}

const percent = (share: number) => `${(100 * share).toFixed(3)}%`;

/** Who has hands at what and when, and what waits in between; against now, and against the opening. */
export function DayStrip({ rows, people, now, opens, zone }: DayStripProps) {
  const span = daySpan(now);
  const lanes = packed(waitsOf(rows).filter((wait) => within(span, wait.from, wait.until)));
  const names = people.length ? people : [{ name: "", away: false }];
  const at = (moment: number) => (moment - span.from) / (span.to - span.from);
  const high = HEAD + names.length * LANE + Math.max(1, lanes.length) * WAIT_LANE + 12;
  return (
    <Sideways label="Hands and waits, against the clock" look="tray p-3">
      <div className="relative" style={{ height: high, minWidth: LEAST_WIDTH }}>
        <div className="absolute inset-y-0 right-3" style={{ left: NAMES }}>
          {span.hours.map((hour) => (
            <div
              key={hour}
              aria-hidden="true"
              className="absolute bottom-0 w-px bg-line"
              style={{ left: percent(at(hour)), top: HEAD - 10 }}
            >
              {isUnderNow(span, { x: at(hour) }, now, LEAST_WIDTH - NAMES) ? null : (
                <span className="absolute -top-6 -translate-x-1/2 text-[14px] text-soft">{clock(new Date(hour), zone).slice(0, 2)}</span>
              )}
            </div>
          ))}
          {within(span, opens, opens + 1) ? (
            <div className="absolute bottom-0 w-0.5 bg-warn" style={{ left: percent(at(opens)), top: HEAD - 10 }}>
              <span className={`absolute bottom-0 text-[14px] whitespace-nowrap text-warn ${at(opens) > 0.8 ? "right-2" : "left-1.5"}`}>
                opens
              </span>
            </div>
          ) : null}
          <div aria-hidden="true" className="absolute bottom-0 z-10 w-[3px] bg-rim" style={{ left: percent(at(now)), top: HEAD - 10 }}>
            <span className="absolute -top-7 -translate-x-1/2 rounded-lg bg-rim px-2 py-0.5 text-[14px] font-bold text-on-rim">now</span>
          </div>
        </div>
        {names.map((person, n) => (
          <div key={person.name} className="absolute inset-x-0 border-t border-line" style={{ top: HEAD + n * LANE, height: LANE }}>
            <span className={`block w-[88px] truncate pt-2.5 text-[15px] font-bold ${person.away ? "text-soft line-through" : ""}`}>
              {person.name || "by the clock"}
            </span>
            <ul
              className="absolute inset-y-0 right-3"
              style={{ left: NAMES }}
              aria-label={`${person.name || "by the clock"}${person.away ? ", away" : ""}`}
            >
              {rows.flatMap((row) =>
                row.hands
                  .filter((part) => part.who === person.name)
                  .map((part) => {
                    const place = within(span, part.from, part.until);
                    return place ? (
                      <li
                        key={`${row.id} ${part.from}`}
                        className="absolute top-2 h-7 min-w-2 rounded-md border border-[var(--outline)]"
                        style={{ left: percent(place.x), width: percent(place.width), background: row.colour }}
                        title={`${row.name}, ${clock(new Date(part.from), zone)}`}
                      >
                        <span className="sr-only">
                          {row.name}, {clock(new Date(part.from), zone)} to {clock(new Date(part.until), zone)}
                        </span>
                      </li>
                    ) : null;
                  }),
              )}
            </ul>
          </div>
        ))}
        <div className="absolute inset-x-0 border-t border-line" style={{ top: HEAD + names.length * LANE }}>
          <span className="block pt-1.5 text-[15px] text-soft">waits</span>
        </div>
        {lanes.map((lane, n) => (
          <ul
            key={lane[0]?.id}
            className="absolute right-3"
            style={{ left: NAMES, top: HEAD + names.length * LANE + 5 + n * WAIT_LANE, height: WAIT_LANE }}
            aria-label="Waits"
          >
            {lane.map((wait) => {
              const place = within(span, wait.from, wait.until);
              return place ? (
                <li
                  key={wait.id}
                  className="absolute top-0 flex h-[25px] items-center rounded-md px-1.5 text-[14px] whitespace-nowrap"
                  style={{
                    left: percent(place.x),
                    width: percent(place.width),
                    background: `repeating-linear-gradient(115deg, color-mix(in srgb, ${wait.colour} 46%, var(--enamel)) 0 7px, color-mix(in srgb, ${wait.colour} 22%, var(--enamel)) 7px 12px)`,
                  }}
                >
                  {/* Positioned, so that it clips the text for screen readers too: outside the bar that would widen the strip. */}
                  <span className="relative overflow-hidden text-ellipsis">
                    {wait.name}
                    <span className="sr-only">
                      , {clock(new Date(wait.from), zone)} to {clock(new Date(wait.until), zone)}
                    </span>
                  </span>
                </li>
              ) : null;
            })}
          </ul>
        ))}
      </div>
    </Sideways>
  );
}
