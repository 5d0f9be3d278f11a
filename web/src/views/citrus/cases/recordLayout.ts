/** The house's record of a fruit as a small chart: mL from a kilogram, case by case through the weeks. */

interface RecordDot {
  x: number;
  y: number;
}

export interface RecordScale {
  dots: RecordDot[];
  low: number;
  high: number;
}

const PAD = 26;
const AXIS = 30;

/** Dots for (moment, mL per kg), oldest left; the axis holds them all with a little air. */
export function recordDots(points: readonly { at: number; value: number }[], size: { width: number; height: number }): RecordScale {
  const values = points.map((point) => point.value);
  const low = Math.floor((Math.min(...values) * 0.92) / 20) * 20;
  const high = Math.ceil((Math.max(...values) * 1.08) / 20) * 20;
  const first = Math.min(...points.map((point) => point.at));
  const last = Math.max(...points.map((point) => point.at));
  const dots = points.map((point) => ({
    x: PAD + AXIS + ((point.at - first) / Math.max(1, last - first)) * (size.width - 2 * PAD - AXIS),
    y: size.height - PAD - ((point.value - low) / Math.max(1, high - low)) * (size.height - 2 * PAD),
  }));
  return { dots, low, high };
}
