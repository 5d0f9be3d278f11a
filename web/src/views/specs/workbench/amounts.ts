/** A fixed amount as it is edited: what is typed changes how much, and never what else the amount means. */

import type { SpecAmount } from "../../../api/client";
import { FIGURES } from "../../../api/figures";
import { typed } from "../../../parts/numbers";

export type Fixed = Extract<SpecAmount, { kind: "fixed" }>;
type Part = "mass_g" | "volume_ml" | "count";
export type End = "value" | "low" | "high";

const UNITS: Readonly<Record<Part, string>> = { mass_g: FIGURES.mass_g.unit, volume_ml: FIGURES.volume_ml.unit, count: "pieces" };
const PARTS = ["mass_g", "volume_ml", "count"] as const;

export interface Ranged {
  part: Part;
  unit: string;
  range: Readonly<Record<End, number | string>>;
}

/** The range of an amount, and its unit; null for one that is a single figure or text. */
export function rangeOf(amount: Fixed): Ranged | null {
  for (const part of PARTS) {
    const given = amount[part];
    if (typeof given === "object" && given !== null) return { part, unit: UNITS[part], range: given };
  }
  return null;
}

/** A single amount as text: as it was written, or its figure with its unit. */
export function amountText(amount: Fixed): string {
  if (amount.written !== undefined) return amount.written;
  const part = PARTS.find((name) => amount[name] !== undefined && typeof amount[name] !== "object");
  return part ? `${amount[part]} ${UNITS[part]}` : "";
}

/** The amount as it is typed anew: a figure in its own unit moves its range along, anything else (“2 cups”) is kept as it is written. */
export function edited(amount: Fixed, text: string): Fixed {
  const ranged = rangeOf(amount);
  if (!ranged) return rewritten(amount, text);
  const figure = text.trim().replace(new RegExp(`\\s*${ranged.unit}$`, "i"), "");
  return figure === "" || typed(figure) !== null ? withEnd(amount, ranged, "value", figure) : rewritten(amount, text);
}

/** The amount with other words for how much; whether it scales, and whether it is to taste, stay. */
function rewritten(amount: Fixed, written: string): Fixed {
  const { mass_g: _mass, volume_ml: _volume, count: _count, ...meaning } = amount;
  return { ...meaning, written };
}

/** The amount with one end of its range, or its middle, typed anew. The ends go along with the middle, in proportion. */
export function withEnd(amount: Fixed, { part, range }: Ranged, end: End, text: string): Fixed {
  const next = typed(text) ?? text;
  const { value, low, high } = range;
  const [was, from, to] = [Number(value), Number(low), Number(high)];
  const moves = end === "value" && typeof next === "number" && next > 0 && was > 0 && Number.isFinite(from) && Number.isFinite(to);
  const by = moves ? next / was : 1;
  const scaled = (size: number) => Number((size * by).toPrecision(6));
  const ends = moves ? { low: scaled(from), high: scaled(to) } : {};
  return { ...amount, [part]: { ...range, ...ends, [end]: next } } as Fixed;
}

/** An amount of another kind as it begins, to be filled in: a ratio is measured against the line that sets the batch, or else the first other one. */
export function begun(kind: SpecAmount["kind"], against: string): Record<string, unknown> {
  if (kind === "fixed") return { kind, written: "" };
  if (kind === "ratio") return { kind, to: { line: against }, basis: "weight", ratio: "" };
  if (kind === "percent") return { kind, percent: "", basis: "w/w" };
  if (kind === "target") return { kind, property: "acid_g_100ml", value: "" };
  return kind === "state" ? { kind, state: "cover" } : { kind };
}
