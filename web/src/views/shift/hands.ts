/** What Shift says first: what needs hands now, and when the next thing will. */

import type { Schemas } from "../../api/client";
import { span } from "../../parts/say";

type Shift = Schemas["ShiftOut"];
export type Run = Schemas["RunRow"];

/** When a run's wait is over [ms]; null without one. */
export const dueAt = (run: Run) => (run.waiting ? Date.parse(run.waiting.until) : null);

export interface Hands {
  /** The run that needs hands first, as the site says. */
  first: Run | undefined;
  rest: Run[];
  words: string;
}

/** Which run comes first, and in words how many are over their time and when the next will be. */
export function handsAt({ runs, hands, service_from }: Pick<Shift, "runs" | "hands" | "service_from">, now: number): Hands {
  const ends = runs.flatMap((run) => dueAt(run) ?? []);
  const over = ends.filter((end) => end <= now).length;
  const coming = ends.filter((end) => end > now);
  const parts = [over === 0 ? "nothing is over its time" : over === 1 ? "one thing needs hands now" : `${over} things need hands now`];
  if (coming.length) parts.push(`next in ${span(Math.min(...coming) - now)}`);
  return {
    first: runs.find((run) => run.id === hands),
    rest: runs.filter((run) => run.id !== hands),
    words: [...parts, `service at ${service_from}`].join(" · "),
  };
}

/** What the first thing is about: how long it is over, or where it stands, and who did the last thing with it. */
export function aboutRun(run: Run, now: number): string {
  const due = dueAt(run);
  return due !== null && due <= now ? `${span(now - due)} over · ${run.last}` : `step ${run.number} of ${run.of} · ${run.last}`;
}
