/** What the library shows: which specs were asked for, what stands of each, and in which order their families come. */

import type { Schemas } from "../../../api/client";
import type { LibraryWish } from "../../../api/queries";
import { figure, GAP } from "../../../parts/numbers";
import { day } from "../../../parts/say";

export type Row = Schemas["SpecRow"];
export type Wish = Required<Omit<LibraryWish, "order">>;

/** Whether fewer than all specs were asked for. */
export const isNarrowed = (wish: Wish) => wish.find !== "" || wish.family !== "" || wish.state !== "" || wish.on_shelf;

/** What stands of a spec: its version or why not, who follows whom, what of it is on the shelf. */
export function standing(item: Row, zone: string): string {
  if (item.state === "withdrawn") return `version ${item.version} withdrawn`;
  const parts = [item.version ? `version ${item.version}` : "draft, never published"];
  if (item.trial_of) parts.unshift(`trial beside ${item.trial_of}`);
  if (item.base) parts.push(`follows ${item.base}`);
  if (item.follows) parts.push(item.newer ? `${item.follows} has version ${item.newer} now` : `follows ${item.follows}`);
  if (item.on_shelf_ml > 0) parts.push(`${figure(item.on_shelf_ml / 1000, 2)}${GAP}L on the shelf`);
  else if (item.last_made) parts.push(`last made ${day(item.last_made, zone)}`);
  return parts.join(" · ");
}

type Words = Schemas["FamilySheet"];

/** The families that the house's specs belong to, in the order in which makers work, each with its specs; one that has no word stands under its own key, last. */
export function byFamily(items: readonly Row[], families: readonly Words[]): (Words & { items: Row[] })[] {
  const used = [...new Set(items.map((item) => item.family))];
  const others = used.filter((key) => !families.some((family) => family.key === key)).map((key) => ({ key, word: key }));
  return [...families, ...others]
    .map((family) => ({ ...family, items: items.filter((item) => item.family === family.key) }))
    .filter((family) => family.items.length > 0);
}
