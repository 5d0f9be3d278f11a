/** The river's geometry: masses in, paths out. No framework, no rule of the job. */

import { BANDS, type Band } from "../parts/say";

export type BandMasses = Record<Band, number>;

export interface RiverStep {
  id: string;
  bands: BandMasses;
  /** Masses in the step's vessel before its lines went in [g]. */
  bandsBefore: BandMasses;
  continues: boolean;
  /** The vessel's name, said where another one begins; empty when there is only one. */
  vessel: string;
  /** Half-range of the mass, g. */
  doubt: number;
  added: readonly { line: string; bands: BandMasses; mass: number }[];
  leaving: readonly { name: string; mass: number; kept: boolean }[];
}

export interface RowBox {
  top: number;
  height: number;
}

interface Ribbon {
  key: string;
  band: Band;
  path: string;
}
interface Stream {
  key: string;
  band: Band;
  path: string;
  labelX: number;
  labelY: number;
  mass: number;
}
interface Loss {
  key: string;
  name: string;
  path: string;
  kept: boolean;
}
/** Where the river changes to another vessel. */
interface Head {
  key: string;
  name: string;
  x: number;
  y: number;
}
export interface RiverDrawing {
  heads: Head[];
  ribbons: Ribbon[];
  edge: string;
  streams: Stream[];
  losses: Loss[];
}

export const SLIVER = 2.5;
const LEAST_G = 0.02;
const WIDEST_SHARE = 0.44;
/** The river keeps to the right, since tributaries bring their names and losses do not. */
const CENTRE_SHARE = 0.57;
/** A vessel is named at the right edge, where its name cannot be cut. */
const HEAD_EDGE = 6;
const JOIN_FROM = 16;
const JOIN_TO = 58;

const sum = (bands: BandMasses) => BANDS.reduce((total, band) => total + bands[band], 0);
const n = (value: number) => value.toFixed(1);

interface Station {
  y: number;
  bands: BandMasses;
  doubt: number;
}

/** Width of each band at one height: in proportion to mass, but never thinner than can be seen. */
export function widths(bands: BandMasses, perGram: number): Record<Band, number> {
  const found = {} as Record<Band, number>;
  for (const band of BANDS) found[band] = bands[band] < LEAST_G ? 0 : Math.max(SLIVER, bands[band] * perGram);
  return found;
}

function curve(from: { x: number; y: number }, to: { x: number; y: number }): string {
  const middle = (from.y + to.y) / 2;
  return `C${n(from.x)} ${n(middle)} ${n(to.x)} ${n(middle)} ${n(to.x)} ${n(to.y)}`;
}

function between(left: readonly { x: number; y: number }[], right: readonly { x: number; y: number }[]): string {
  const first = left[0];
  const last = right.at(-1);
  if (!first || !last) return "";
  const down = left.slice(1).map((point, i) => curve(left[i] ?? point, point));
  const back = [...right].reverse();
  const up = back.slice(1).map((point, i) => curve(back[i] ?? point, point));
  return `M${n(first.x)} ${n(first.y)}${down.join("")}L${n(last.x)} ${n(last.y)}${up.join("")}Z`;
}

const largest = (bands: BandMasses): Band => BANDS.reduce((best, band) => (bands[band] > bands[best] ? band : best), "water" as Band);

/** Paths for a river of these steps in rows of these boxes, `width` px across. */
export function drawRiver(steps: readonly RiverStep[], rows: readonly RowBox[], width: number): RiverDrawing {
  const heaviest = Math.max(1, ...steps.map((step) => sum(step.bands)));
  const perGram = (width * WIDEST_SHARE) / heaviest;
  const centre = width * CENTRE_SHARE;
  const runs: Station[][] = [];
  const heads: Head[] = [];
  const streams: Stream[] = [];
  const losses: Loss[] = [];
  steps.forEach((step, i) => {
    const row = rows[i];
    if (!row) return;
    const { bandsBefore } = step;
    const joined = { ...bandsBefore };
    for (const added of step.added) for (const band of BANDS) joined[band] += added.bands[band];
    const join = Math.min(JOIN_TO, row.height * 0.62);
    const started = runs.some((run) => run.length > 0);
    if (sum(joined) > LEAST_G) {
      // Another vessel is another ribbon: what the row above shows stands aside, and is not in this one.
      const follows = step.continues && (runs.at(-1)?.length ?? 0) > 0;
      if (!follows) {
        runs.push([]);
        if (step.vessel) heads.push({ key: step.id, name: step.vessel, x: width - HEAD_EDGE, y: row.top + 16 });
      }
      const stations = runs.at(-1) ?? [];
      const held = sum(bandsBefore) > LEAST_G;
      if (held) stations.push({ y: row.top + JOIN_FROM, bands: bandsBefore, doubt: follows ? (steps[i - 1]?.doubt ?? 0) : 0 });
      stations.push({ y: row.top + (held || started ? join : JOIN_FROM), bands: joined, doubt: step.doubt });
      stations.push({ y: row.top + row.height, bands: step.bands, doubt: step.doubt });
    }
    if (started) streams.push(...tributaries(step, row, join, centre - total(bandsBefore, perGram) / 2, perGram));
    const edge = centre + total(joined, perGram) / 2;
    step.leaving.forEach((stream, k) => {
      const thick = Math.max(6, Math.min(26, stream.mass * perGram));
      const from = row.top + Math.min(join + 2, row.height - thick - 14) + k * 4;
      const to = Math.min(row.top + row.height - 8, from + 34);
      losses.push({
        key: `${step.id}-${k}`,
        name: stream.name,
        kept: stream.kept,
        path: bend(edge - 3, from, width - 2, to, thick),
      });
    });
  });

  return {
    heads,
    ribbons: runs.flatMap((stations, k) => ribbons(stations, centre, perGram, k)),
    edge: runs.map((stations) => softEdge(stations, centre, perGram)).join(""),
    streams,
    losses,
  };
}

const total = (bands: BandMasses, perGram: number) => BANDS.reduce((all, band) => all + widths(bands, perGram)[band], 0);

function ribbons(stations: readonly Station[], centre: number, perGram: number, run: number): Ribbon[] {
  return BANDS.flatMap((band, place) => {
    if (!stations.some((station) => station.bands[band] >= LEAST_G)) return [];
    const left: { x: number; y: number }[] = [];
    const right: { x: number; y: number }[] = [];
    for (const station of stations) {
      const each = widths(station.bands, perGram);
      const start = centre - total(station.bands, perGram) / 2 + BANDS.slice(0, place).reduce((x, other) => x + each[other], 0);
      left.push({ x: start, y: station.y });
      right.push({ x: start + each[band], y: station.y });
    }
    return [{ key: `${run}-${band}`, band, path: between(left, right) }];
  });
}

/** The range of the mass, as a soft edge on the right bank. */
function softEdge(stations: readonly Station[], centre: number, perGram: number): string {
  const bank = stations.map((station) => ({
    x: centre + total(station.bands, perGram) / 2,
    y: station.y,
    doubt: station.doubt,
  }));
  const right = bank.map((point) => ({
    x: point.x + Math.max(point.doubt > 0.5 ? 3 : 0, point.doubt * perGram),
    y: point.y,
  }));
  return between(bank, right);
}

function tributaries(step: RiverStep, row: RowBox, join: number, bank: number, perGram: number): Stream[] {
  const thick = step.added.map((added) => Math.max(3, Math.min(34, added.mass * perGram)));
  const room = thick.reduce((a, b) => a + b, 0) + 22 * (step.added.length - 1);
  let y = row.top + Math.max(14, (join + JOIN_FROM - room) / 2);
  return step.added.map((added, i) => {
    const t = thick[i] ?? 3;
    const land = Math.min(y + 14, row.top + row.height - t - 4);
    const drawn = {
      key: added.line,
      band: largest(added.bands),
      path: bend(0, y, bank + 4, land, t),
      labelX: 10,
      labelY: y + (t >= 20 ? t / 2 + 5 : t + 17),
      mass: added.mass,
    };
    y += t + 24;
    return drawn;
  });
}

/** A band of constant thickness from one side to the other, bending down. */
function bend(x0: number, y0: number, x1: number, y1: number, thick: number): string {
  const middle = (x0 + x1) / 2;
  const over = `M${n(x0)} ${n(y0)}C${n(middle)} ${n(y0)} ${n(middle)} ${n(y1)} ${n(x1)} ${n(y1)}`;
  return `${over}L${n(x1)} ${n(y1 + thick)}C${n(middle)} ${n(y1 + thick)} ${n(middle)} ${n(y0 + thick)} ${n(x0)} ${n(y0 + thick)}Z`;
}
