/** The house's record of a fruit as a small chart: mL from a kilogram, case by case through the weeks. */

import { scaleLinear } from "d3-scale";

interface RecordDot {
  x: number;
  y: number;
}

export interface RecordScale {
  dots: RecordDot[];
  /** The marks of the upright axis, with where they stand. */
  marks: { value: number; y: number }[];
}

const PAD = 26;
const AXIS = 30;

/** Dots for (moment, mL per kg), oldest left; the axis holds them all with a little air. */
export function recordDots(points: readonly { at: number; value: number }[], size: { width: number; height: number }): RecordScale {
  const values = points.map((point) => point.value);
  const moments = points.map((point) => point.at);
  const x = scaleLinear([Math.min(...moments), Math.max(...moments)], [PAD + AXIS, size.width - PAD]);
  const y = scaleLinear([Math.min(...values) * 0.92, Math.max(...values) * 1.08], [size.height - PAD, PAD]).nice(3);
  return {
    dots: points.map((point) => ({ x: x(point.at), y: y(point.value) })),
    marks: y.ticks(3).map((value) => ({ value, y: y(value) })),
  };
}
