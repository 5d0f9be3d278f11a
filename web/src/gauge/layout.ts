/** The gauge's geometry: a vessel drawn as a column, filled by mass, with the target's line and its tolerance. */

import { BANDS, type Band } from "../parts/say";

export interface GaugeInput {
  bands: Readonly<Record<Band, number>>;
  target: number | null;
  tolerance: number;
  top: number;
  bottom: number;
}

interface GaugeFill {
  band: Band;
  y: number;
  height: number;
}
export interface GaugeDrawing {
  fills: GaugeFill[];
  level: number;
  mass: number;
  line: number | null;
  band: { y: number; height: number } | null;
}

const ROOM = 1.28;
const LEAST_G = 0.05;
const SLIVER = 3;
/** Heaviest at the bottom, as the eye expects: water below, sugar above. */
const UPWARDS = [...BANDS].reverse();

export function drawGauge({ bands, target, tolerance, top, bottom }: GaugeInput): GaugeDrawing {
  const mass = BANDS.reduce((all, band) => all + bands[band], 0);
  const most = Math.max(mass, target ?? 0, 1) * ROOM;
  const perGram = (bottom - top) / most;
  let y = bottom;
  const fills: GaugeFill[] = [];
  for (const band of UPWARDS) {
    if (bands[band] < LEAST_G) continue;
    const height = Math.max(SLIVER, bands[band] * perGram);
    y -= height;
    fills.push({ band, y, height });
  }
  const line = target === null ? null : bottom - target * perGram;
  const around = Math.max(4, tolerance * perGram);
  return { fills, level: y, mass, line, band: line === null ? null : { y: line - around, height: around * 2 } };
}
