/** Several recipes of one text: which are taken, and how those are named that ask one thing. */

import type { SpecFile } from "../../../api/client";

const NAMED = 3;

/** The positions of the drafts that are taken next: those that were not left out, were not taken before, and have a name. */
export const toTake = (bodies: readonly SpecFile[], left: readonly number[], taken: Readonly<Record<number, string>>): number[] =>
  bodies.flatMap((body, at) => (left.includes(at) || at in taken || !body.name.trim() ? [] : [at]));

/** The recipes that ask one thing, the first three by name. */
export function inDrafts(names: readonly string[]): string {
  const more = names.length - NAMED;
  const said = names.slice(0, NAMED).join(", ");
  return more > 0 ? `in ${said} and ${more} more` : `in ${said}`;
}
