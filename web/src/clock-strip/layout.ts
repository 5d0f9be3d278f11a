/** The clock strip's geometry: waits as bars against now. */

export interface Wait {
  id: string;
  since: number;
  until: number;
}

export interface Strip {
  from: number;
  to: number;
  hours: { at: number; x: number }[];
}

const HOUR = 3_600_000;
const LEAST_HOURS = 4;

/** The span to show: from a little before the first wait to a little after the last, in whole even steps, at most a day ahead. */
export function stripSpan(waits: readonly Wait[], now: number): Strip {
  const first = Math.min(now - HOUR, ...waits.map((wait) => wait.since));
  const last = Math.max(now + LEAST_HOURS * HOUR, ...waits.map((wait) => wait.until + HOUR));
  const from = Math.floor(Math.max(first, now - 8 * HOUR) / HOUR) * HOUR;
  const to = Math.ceil(Math.min(last, now + 18 * HOUR) / HOUR) * HOUR;
  const count = (to - from) / HOUR;
  const step = count > 14 ? 2 : 1;
  const hours = [];
  for (let at = from; at <= to; at += step * HOUR) hours.push({ at, x: (at - from) / (to - from) });
  return { from, to, hours };
}

/** Place on the strip, 0 to 1, and whether it lies beyond an end. */
export function place(strip: Strip, at: number): { x: number; beyond: boolean } {
  const x = (at - strip.from) / (strip.to - strip.from);
  return { x: Math.min(1, Math.max(0, x)), beyond: x < 0 || x > 1 };
}
