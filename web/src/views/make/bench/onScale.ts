/** What stands on the bench's scale for the line at hand, and whether it may be taken. */

import { SCALE } from "../../../api/rules";
import { figure, GAP } from "../../../parts/numbers";
import type { Now } from "../run/now";

export interface Shown {
  state: string;
  /** Null above what the scale carries. */
  value: number | null;
  steady: boolean;
}

export interface OnScale {
  /** What stands on the scale for this line, or null without one. */
  value: number | null;
  steady: boolean;
  /** What can be taken now, and the word for it. */
  taken: { value: number; says: string } | null;
  /** What is in, where the scale shows less than that: it was tared, or the vessel stands elsewhere. */
  behind: number;
}

export const takes = (value: number) => ({ value, says: `Take ${figure(value, 1)}${GAP}g` });

/** What the scale says of a line. Less than nothing on it means that what was tared has been lifted off, and nothing is being weighed. */
export function onScale(shown: Shown | null, line: Pick<NonNullable<Now["line"]>, "so_far_g"> | null): OnScale {
  const live = line && shown?.state === "live" && (shown.value ?? 0) > -SCALE.lifted_g ? shown.value : null;
  const before = line?.so_far_g ?? 0;
  const behind = live !== null && live < before - SCALE.lifted_g ? before : 0;
  const steady = shown?.steady ?? false;
  return {
    value: behind || (live ?? (before || null)),
    steady,
    taken: live !== null && !behind && steady && live > SCALE.still_g ? takes(live) : null,
    behind,
  };
}

/** Whether a weight that can be taken lies within the tolerance of its line. */
export function isWithin(value: number | null, line: Pick<NonNullable<Now["line"]>, "planned_g" | "tolerance_g"> | null): boolean {
  const planned = line?.planned_g?.value;
  return value !== null && planned !== undefined && Math.abs(value - planned) <= (line?.tolerance_g ?? 0);
}
