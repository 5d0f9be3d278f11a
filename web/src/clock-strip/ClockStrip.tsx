import { useLayoutEffect, useRef } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { Sideways } from "../parts/Sideways";
import { clock, day } from "../parts/say";
import { isUnderNow, place, serviceSpan, stripSpan } from "./layout";

type Run = Schemas["RunRow"];
const COLOUR: Record<string, string> = {
  prepare: "var(--solids)",
  extract: "var(--solids)",
  heat: "var(--sugar)",
  clarify: "var(--acid)",
};
const HEAD = 44;
const ROW = 46;
const NAMES = 158;
/** Narrower than this the strip is scrolled [px]. */
const LEAST_WIDTH = 680;

export interface ClockStripProps {
  runs: readonly Run[];
  now: number;
  zone: string;
  serviceFrom: string;
  serviceUntil: string;
}

/** Every waiting thing as a bar against now; what is over stands out by its word. */
export function ClockStrip({ runs, now, zone, serviceFrom, serviceUntil }: ClockStripProps) {
  const waiting = runs.flatMap((run) =>
    run.waiting
      ? [
          {
            run,
            id: run.id,
            family: run.waiting.family,
            doing: run.waiting.doing || run.waiting.kind,
            since: Date.parse(run.waiting.since),
            until: Date.parse(run.waiting.until),
          },
        ]
      : [],
  );
  const strip = stripSpan(waiting, now);
  const service = serviceSpan(strip.from, strip.to, zone, serviceFrom, serviceUntil);
  const at = (x: number) => `calc(${NAMES}px + (100% - ${NAMES + 84}px) * ${x.toFixed(5)})`;
  const nowAt = at(place(strip, now).x);
  const box = useRef<HTMLElement>(null);
  const width = Math.max(LEAST_WIDTH, globalThis.innerWidth - 40) - NAMES - 84;
  const share = place(strip, now).x;
  // Where the strip is wider than the screen it opens at now, and not at the past.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is moved once, and then stays where a hand has put it
  useLayoutEffect(() => {
    const element = box.current;
    if (element) element.scrollLeft = share * (element.scrollWidth - NAMES - 84) - 24;
  }, []);
  return (
    <Sideways ref={box} label="Waiting, against the clock" look="tray relative">
      <div className="relative min-w-[680px]" style={{ height: HEAD + Math.max(1, waiting.length) * ROW + 26 }}>
        {/* What is scrolled away to the left does not stand behind the names. */}
        <div className="sticky left-0 z-20 h-full w-[158px] bg-enamel">
          {waiting.length === 0 ? (
            <p className="pl-4 text-soft" style={{ paddingTop: HEAD }}>
              Nothing waits just now.
            </p>
          ) : null}
        </div>
        {service.map((part) => (
          <div
            key={part.from}
            className="absolute bottom-0 bg-quiet"
            style={{
              left: at(part.x0),
              width: `calc((100% - ${NAMES + 84}px) * ${(part.x1 - part.x0).toFixed(5)})`,
              top: HEAD - 6,
            }}
          >
            <span className="absolute right-0 bottom-1 left-0 text-center text-[14px] text-soft">service</span>
          </div>
        ))}
        {strip.hours.map((hour) => (
          <div key={hour.at} aria-hidden="true" className="absolute inset-y-0 w-px bg-line" style={{ left: at(hour.x), top: HEAD - 6 }}>
            {isUnderNow(strip, hour, now, width) ? null : (
              <span className={`absolute -top-7 text-[15px] text-soft ${hour.x > 0 ? "-translate-x-1/2" : "pl-1"}`}>
                {clock(new Date(hour.at), zone).slice(0, 2)}
              </span>
            )}
          </div>
        ))}
        <div aria-hidden="true" className="absolute inset-y-0 z-10 w-[3px] bg-rim" style={{ left: nowAt }}>
          <span className="absolute top-2 left-1/2 -translate-x-1/2 rounded-lg bg-rim px-2.5 py-0.5 text-[15px] font-bold text-on-rim">
            now
          </span>
        </div>
        <ul>
          {waiting.map((wait, i) => {
            const top = HEAD + i * ROW;
            const [start, end, here] = [place(strip, wait.since), place(strip, wait.until), place(strip, now)];
            const over = wait.until <= now;
            const colour = COLOUR[wait.family] ?? "var(--water)";
            const done = Math.min(end.x, here.x);
            const far = end.x > 0.86;
            const when = wait.until - now > 20 * 3_600_000 ? `ready ${day(new Date(wait.until), zone)}` : clock(new Date(wait.until), zone);
            return (
              <li key={wait.id} className="absolute inset-x-0" style={{ top, height: ROW }}>
                <Link
                  to={`/make/${wait.run.id}`}
                  className="block h-full"
                  aria-label={`${wait.run.name}, ${wait.doing}, ${over ? `over since ${when}` : `until ${when}`}`}
                >
                  <span className="sticky left-0 z-30 block w-[158px] bg-enamel pr-2 pl-4 leading-tight">
                    <span className="block truncate text-[15px] font-bold">{wait.run.name}</span>
                    <span className="block text-[14px] text-soft">{wait.doing}</span>
                  </span>
                  <span
                    className="absolute top-1.5 h-7 rounded-md border-2 bg-enamel"
                    style={{
                      left: at(start.x),
                      width: `calc((100% - ${NAMES + 84}px) * ${Math.max(0, end.x - start.x).toFixed(5)})`,
                      borderColor: colour,
                    }}
                  />
                  <span
                    className="absolute top-1.5 h-7 rounded-md"
                    style={{
                      left: at(start.x),
                      width: `calc((100% - ${NAMES + 84}px) * ${Math.max(0, done - start.x).toFixed(5)})`,
                      background: colour,
                    }}
                  />
                  <span
                    className={`absolute top-2.5 z-20 size-5 -translate-x-1/2 rounded-full border-[3px] ${over ? "border-warn bg-warn" : "border-rim bg-enamel"}`}
                    style={{ left: at(end.x) }}
                  />
                  <span
                    className={`absolute top-2 z-20 text-[15px] font-bold whitespace-nowrap ${over ? "text-warn" : "text-ink"} ${far && !over ? "-translate-x-full -ml-4" : "ml-4"}`}
                    style={{ left: at(over ? here.x : end.x) }}
                  >
                    {over ? "over: hands now" : when}
                  </span>
                </Link>
              </li>
            );
          })}
        </ul>
      </div>
    </Sideways>
  );
}
