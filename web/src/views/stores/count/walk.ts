/** The walk of a count: what stands in a place together, and a gap in words. */

import type { Schemas } from "../../../api/client";
import { figure, GAP } from "../../../parts/numbers";

export type Row = Schemas["StocktakeRow"];

/** The places in the order in which they are walked, each with what stands there. */
export function walkPlaces(rows: readonly Row[]): { place: string; rows: Row[] }[] {
  const places = new Map<string, Row[]>();
  for (const row of rows) places.set(row.place, [...(places.get(row.place) ?? []), row]);
  return [...places].map(([place, standing]) => ({ place, rows: standing }));
}

/** "120 g lack, €2.40": what a count found, with its value where a price is known. */
export function gapWords({ gap, unit }: Pick<Row, "gap" | "unit">, money: (amount: string) => string): string {
  if (!gap) return "";
  const amount = figure(Math.abs(gap.amount), 0);
  if (!gap.amount) return "as the books say";
  const value = gap.money === null ? "" : `, ${money(gap.money.replace("-", ""))}`;
  return `${amount}${GAP}${unit} ${gap.amount < 0 ? "lack" : "over"}${value}`;
}
