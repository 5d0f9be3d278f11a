/** Standards in words, and where their batches stand on the chart of drift. */

import { scaleLinear, scaleTime } from "d3-scale";
import type { Schemas } from "../../../api/client";
import { figure } from "../../../parts/numbers";
import { day } from "../../../parts/say";

/** How high the chart is [px]: without panels there is no lane for them. */
export const chartHeight = (panels: readonly unknown[]) => (panels.length ? CHART.height : CHART.lane + 14);

/** What is held of a standard: how many portions, and until when. */
export function heldWords({ portions, portion_ml, until }: Pick<Schemas["StandardRow"], "portions" | "portion_ml" | "until">): string {
  const held =
    portions === null ? "Made again by weight" : `${portions} ${portions === 1 ? "portion" : "portions"} of ${figure(portion_ml, 0)} mL`;
  return until ? `${held}, until ${day(until)}` : held;
}

type Drift = Schemas["Drift"];
interface Mark {
  key: string;
  x: number;
  y: number;
  says: string;
}
export interface DriftChart {
  sugar: Mark[];
  acid: Mark[];
  panels: (Mark & { id: string; isShown: boolean })[];
  marks: { value: number; y: number }[];
  days: { label: string; x: number }[];
  /** Where a version begins. */
  versions: { label: string; x: number }[];
  /** The upper and the lower edge of what few would notice. */
  band: { top: number; bottom: number };
  zero: number;
}

/** Where things stand on the chart [px]; how wide it is follows from the room that it has. */
export const CHART = { height: 312, left: 58, right: 18, top: 30, lane: 264, bottom: 308 };
const HUNDRED = 100;
const LABEL = 84;
const DAY_MS = 86_400_000;

const signed = (share: number) => `${share > 0 ? "+" : share < 0 ? "−" : ""}${Math.abs(Math.round(share * HUNDRED))}${"\u00a0"}%`;

/** The marks without those that would stand on the one before. */
function apart(marks: readonly { label: string; x: number }[]) {
  const kept: { label: string; x: number }[] = [];
  for (const mark of marks) if (mark.x - (kept.at(-1)?.x ?? Number.NEGATIVE_INFINITY) >= LABEL) kept.push(mark);
  return kept;
}

/** Batches by date and by how far they lie from the standard, and panels in a lane below, so `wide` [px]; null while there is nothing. */
export function driftChart(drift: Drift, panels: readonly Schemas["BesidePanel"][], wide: number): DriftChart | null {
  const at = (text: string) => new Date(`${text}T12:00:00Z`);
  const moments = [...drift.points.map((point) => at(point.day)), ...panels.map((panel) => at(panel.day))].map(Number);
  if (!moments.length) return null;
  const [first, last] = [Math.min(...moments), Math.max(...moments)];
  const pad = Math.max(DAY_MS, (last - first) / 32);
  const x = scaleTime([new Date(first - pad), new Date(last + pad)], [CHART.left, wide - CHART.right]);
  const shares = drift.points.flatMap((point) => [point.sugar, point.acid]).filter((share) => share !== null);
  const most = Math.max((3 * drift.noticeable) / 2, ...shares.map((share) => (8 * Math.abs(share)) / 7));
  const y = scaleLinear([-most, most], [CHART.lane - 16, CHART.top]);
  const marks = (name: "sugar" | "acid") =>
    drift.points.flatMap((point) => {
      const share = point[name];
      if (share === null) return [];
      return [{ key: point.lot, x: x(at(point.day)), y: y(share), says: `${point.lot}, ${day(point.day)}: ${name} ${signed(share)}` }];
    });
  return {
    sugar: marks("sugar"),
    acid: marks("acid"),
    panels: panels.map((panel) => ({
      key: panel.code,
      id: panel.panel,
      isShown: panel.is_shown,
      x: x(at(panel.day)),
      y: (CHART.lane + CHART.bottom) / 2 - 8,
      says: `${panel.code}, ${day(panel.day)}: ${panel.headline}`,
    })),
    versions: apart(
      drift.points
        .filter((point, n) => point.version !== drift.points[n - 1]?.version)
        .map((point) => ({ label: `version ${point.version}`, x: x(at(point.day)) })),
    ),
    marks: y.ticks(4).map((value) => ({ value, y: y(value) })),
    days: [new Date(first), ...(last > first ? [new Date(last)] : [])].map((moment) => ({ label: day(moment), x: x(moment) })),
    band: { top: y(drift.noticeable), bottom: y(-drift.noticeable) },
    zero: y(0),
  };
}

export const percentMark = signed;
