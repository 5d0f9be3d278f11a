/** What was captured without a spec: what went in, in its order, kept on this device until it becomes a draft. */

import { figure, GAP } from "../../../parts/numbers";
import type { Captured } from "./CaptureSheets";

export interface Row extends Captured {
  id: string;
}
export const FIRST_VESSEL = "pot";
const KEPT = "ulsek.capture";

/** What was captured on this device and is no draft yet. */
export function kept(): Row[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(KEPT) ?? "[]");
    return Array.isArray(found) ? (found as Row[]) : [];
  } catch {
    return [];
  }
}

export const vesselOf = (row: Row | undefined) => (typeof row?.body.vessel === "string" ? row.body.vessel : undefined);

/** How much of it, as it was weighed or dropped. */
export function howMuch({ body }: Row): string {
  if (body.mass_g !== undefined && body.verb !== "split") return `${figure(Number(body.mass_g))}${GAP}g`;
  return body.drops === undefined ? "" : `${Number(body.drops)} drops`;
}

export const keep = (rows: readonly Row[]) => localStorage.setItem(KEPT, JSON.stringify(rows));

/** Every vessel that something is in, the first one always. */
export const vesselsOf = (rows: readonly Row[]): string[] => [...new Set([FIRST_VESSEL, ...rows.flatMap((row) => vesselOf(row) ?? [])])];
