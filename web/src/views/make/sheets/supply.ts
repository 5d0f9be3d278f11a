/** What a line comes out of: which crate or bottle, what is left in it, and what is recorded when another is taken. */

import type { Schemas } from "../../../api/client";
import { figure, GAP, typed } from "../../../parts/numbers";
import type { Now } from "../run/now";
import type { Happening, Run } from "../run/useBench";

export type Supply = Schemas["SupplyOut"];
export type Line = NonNullable<Now["line"]>;
type Taking = Pick<Run, "supplies">;

/** What a line is taken from: what was named for it, else what the run pinned for its material. */
export const supplyOf = (run: Taking, line: Pick<Line, "supply" | "material">) => line.supply ?? run.supplies[line.material] ?? null;

/** The supplies that a line can come out of. */
export const suppliesFor = (line: Pick<Line, "material">, all: readonly Supply[]) =>
  all.filter((item) => item.material === line.material.split("~")[0]);

/** What is left of a supply and what that still makes; less than nothing is a miscount. */
export function standsAt(item: Pick<Supply, "left_g" | "makes_ml">): string {
  if (item.left_g < 0) return `${figure(-item.left_g, 0)}${GAP}g short`;
  const left = `${figure(item.left_g, 0)}${GAP}g left`;
  if (item.makes_ml === null) return left;
  const litres = item.makes_ml / 1000;
  return `${left}, makes ${figure(litres, litres < 10 ? 1 : 0)}${GAP}L`;
}

export interface Taken {
  words: string;
  /** It is warned of, or there is less than nothing in it. */
  odd: boolean;
}

/** Where a line comes from, in words; null if nothing of it stands in Stores. */
export function takenWords(run: Taking, line: Pick<Line, "supply" | "material" | "parts">, all: readonly Supply[]): Taken | null {
  const own = suppliesFor(line, all);
  if (own.length === 0) return null;
  const taken = own.find((item) => item.supply === supplyOf(run, line));
  if (!taken) return { words: "From nothing in Stores", odd: false };
  // What is in so far came out of those that ran empty.
  const before = line.parts.map((part) => {
    const from = own.find((item) => item.supply === run.supplies[part.material]);
    return `${figure(part.mass_g)}${GAP}g from ${from?.code ?? "another"}`;
  });
  const from = before.length ? `${before.join(", ")}, the rest from` : "From";
  const warned = taken.warning ? ` · ${taken.warning}` : "";
  return { words: `${from} ${taken.code}, ${taken.about} · ${standsAt(taken)}${warned}`, odd: taken.left_g < 0 || taken.warning !== "" };
}

/** How much of a line is in already: a mass, nothing typed, or something that is no mass. */
export function inAlready(text: string): { mass: number | null; fault: string | undefined } {
  const mass = typed(text);
  const bad = text.trim() !== "" && (mass === null || mass <= 0);
  return { mass: bad ? null : mass, fault: bad ? "Figures above 0, or nothing" : undefined };
}

/** What is recorded when another supply is taken: from the start of the line, or from so much on. */
export const takenEvent = (line: string, supply: string, mass: number | null): Happening =>
  mass === null ? ["taken_from", { line, supply }] : ["went_on", { line, mass_g: mass, supply }];

/** Without the site a crate is known by its code, typed or out of its label's address, as it was last listed here. */
export const byCode = (own: readonly Supply[], code: string) =>
  own.find((item) => item.code === code.trim().split("/").at(-1)?.toUpperCase());
