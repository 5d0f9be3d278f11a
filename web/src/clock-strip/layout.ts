/** The clock strip's geometry: waits as bars against now. */

import { clock } from "../parts/say";

export interface Wait {
  id: string;
  since: number;
  until: number;
}

interface Span {
  from: number;
  to: number;
}

export interface Strip extends Span {
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
export function place(strip: Span, at: number): { x: number; beyond: boolean } {
  const x = (at - strip.from) / (strip.to - strip.from);
  return { x: Math.min(1, Math.max(0, x)), beyond: x < 0 || x > 1 };
}

/** Half of the word “now” and half of an hour's figure, side by side [px]. */
const UNDER_NOW_PX = 36;

/** Whether an hour's figure is left out of a strip of `width` px, because “now” stands over it. */
export const isUnderNow = (strip: Span, hour: { x: number }, now: number, width: number) =>
  Math.abs(hour.x - place(strip, now).x) * width < UNDER_NOW_PX;

/** Service hours inside the strip, each as a share of its width. */
export function serviceSpan(from: number, to: number, zone: string, opens: string, closes: string) {
  const open = (at: number) => {
    const time = clock(new Date(at), zone);
    return opens < closes ? time >= opens && time < closes : time >= opens || time < closes;
  };
  const quarter = 900_000;
  const parts: { from: number; x0: number; x1: number }[] = [];
  for (let at = from; at < to; at += quarter) {
    if (!open(at)) continue;
    const [x0, x1] = [(at - from) / (to - from), (at + quarter - from) / (to - from)];
    const last = parts.at(-1);
    if (last && Math.abs(last.x1 - x0) < 1e-6) last.x1 = x1;
    else parts.push({ from: at, x0, x1 });
  }
  return parts;
}
