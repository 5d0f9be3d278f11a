/** Where the dots of a row stand: beside one another along the scale, and above where two would lie on each other. */

import type { Schemas } from "../../../api/client";
import { SCORE } from "../../../api/rules";

type TasterDot = Schemas["TasterDot"];

export interface DotPlace {
  dot: TasterDot;
  at: number;
  /** How many dots it stands above the row: 0, 1 or 2. */
  up: number;
}

const WIDE = 10;
const HIGHEST = 2;

export function dotPlaces(dots: readonly TasterDot[], x: (value: number) => number): DotPlace[] {
  const last: number[] = [];
  return [...dots]
    .sort((one, other) => one.value - other.value || one.seat - other.seat)
    .map((dot) => {
      const at = x(dot.value);
      const free = last.findIndex((before) => at - before >= WIDE);
      const up = free >= 0 ? free : Math.min(last.length, HIGHEST);
      last[up] = at;
      return { dot, at, up };
    });
}

/** The scale of a panel's dots, and what they are. */
export function scaleOf(panel: Schemas["PanelOut"]): { least: number; most: number; about: string } {
  if (panel.method === "ranking")
    return { least: 1, most: panel.design.samples, about: "each dot a taster's place for it · left is first" };
  if (panel.method === "paired") return { least: 0, most: 1, about: "how often each was chosen" };
  return { least: SCORE.least, most: SCORE.most, about: "each dot a taster · bar: where the mean lies, nine in ten" };
}
