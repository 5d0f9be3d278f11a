/** What Stores shows of the deliveries: on which shelf each stands, beside which others, and what may be done with it. */

import type { Schemas } from "../../../api/client";
import { figure, GAP } from "../../../parts/numbers";

export type Stock = Schemas["StockOut"];

/** The shelves of Stores, in the order in which a bar reaches for them. */
const WORDS: Record<string, string> = {
  juice: "Juices",
  fruit: "Fruit",
  vegetable: "Vegetables",
  puree: "Purées",
  sweetener: "Sugars",
  acid: "Acids",
  vinegar: "Vinegars",
  peel: "Peel",
  leaf: "Leaves",
  herb: "Herbs",
  flower: "Flowers",
  spice: "Spices",
  bark: "Barks",
  root: "Roots",
  nut: "Nuts",
  grain: "Grains",
  spirit: "Spirits",
  wine: "Wines and beers",
  dairy: "Dairy",
  egg: "Eggs",
  fat: "Fats",
  oil: "Oils",
  gum: "Gums",
  fining: "Finings",
  salt: "Salts",
  water: "Water",
};
const ORDER = Object.keys(WORDS);
/** A kind that has no shelf of its own stands after those that have. */
const placeOf = (kind: string) => (ORDER.includes(kind) ? ORDER.indexOf(kind) : ORDER.length);

export interface Group {
  material: string;
  name: string;
  items: Stock[];
}

/** Whether every word that is sought is a part of one of the texts. */
export function named(texts: readonly string[], sought: string): boolean {
  const text = texts.join(" ").toLowerCase();
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** What is found by any part of a name, a supplier, a place or a code. */
export const found = (items: readonly Stock[], sought: string): Stock[] =>
  items.filter((item) => named([item.product, item.view.name, item.supplier, item.place, item.code], sought));

/** Without the deliveries of which nothing is left, where another one of the material is. */
export function withoutEmpty(items: readonly Stock[]): readonly Stock[] {
  const here = new Set(items.filter((item) => Number(item.remaining_g) !== 0).map((item) => item.material));
  return items.filter((item) => Number(item.remaining_g) !== 0 || !here.has(item.material));
}

export const totalLeft = (items: readonly Stock[]) => items.reduce((sum, item) => sum + Number(item.remaining_g), 0);

/** What a material's line says under its name: how many deliveries, where it stands or else whose it is, and what is urgent. */
export function aboutGroup({ items }: Group, dayWords: (date: string) => string): { said: string; urgent: string } {
  const places = [...new Set(items.map((item) => item.place).filter(Boolean))];
  const turns = items
    .filter((item) => item.expires_soon)
    .map((item) => item.use_by ?? "")
    .sort()[0];
  const unread = items.some((item) => item.current && item.view.readable && !item.view.brix_read);
  return {
    said: [items.length > 1 ? `${items.length} deliveries` : places.length ? "" : items[0]?.supplier, ...places, unread ? "not read" : ""]
      .filter(Boolean)
      .join(" · "),
    urgent: [
      items.some((item) => item.recalled) ? "recalled" : "",
      turns ? `until ${dayWords(turns)}` : "",
      items.some((item) => Number(item.remaining_g) < 0) ? "count it" : "",
    ]
      .filter(Boolean)
      .join(" · "),
  };
}

/** Shelves in order, each with its materials; deliveries of one material stand side by side. */
export function shelves(items: readonly Stock[]): { kind: string; word: string; groups: Group[] }[] {
  const kinds = [...new Set(items.map((item) => item.view.kind))].sort((a, b) => placeOf(a) - placeOf(b));
  return kinds.map((kind) => {
    const groups = new Map<string, Group>();
    for (const item of items.filter((one) => one.view.kind === kind)) {
      const group = groups.get(item.material) ?? { material: item.material, name: item.view.name, items: [] };
      group.items.push(item);
      groups.set(item.material, group);
    }
    return { kind, word: WORDS[kind] ?? kind, groups: [...groups.values()] };
  });
}

/** Two columns of shelves in order, about as long as one another. What is unfolded in one moves nothing in the other. */
export function columns<Shelf extends { groups: readonly unknown[] }>(all: readonly Shelf[]): [Shelf[], Shelf[]] {
  const lengths = all.map((shelf) => shelf.groups.length + 1);
  const half = lengths.reduce((sum, length) => sum + length, 0) / 2;
  let before = 0;
  const left = all.filter((_, n) => {
    const middle = before + (lengths[n] ?? 0) / 2;
    before += lengths[n] ?? 0;
    return middle <= half;
  });
  return [left, all.slice(left.length)];
}

/** What the head says: how many deliveries in use nobody has read; nothing of an empty store, or one that is not known yet. */
export function headWords(items: readonly Stock[] | undefined, gone: boolean): string {
  if (gone) return "used up, tossed or recalled; the newest stands first";
  if (!items?.length) return "";
  const unread = items.filter((item) => item.view.readable && !item.view.brix_read && item.current).length;
  if (!unread) return "every delivery in use has been read";
  return `${unread === 1 ? "one delivery" : `${unread} deliveries`} nobody has read yet`;
}

/** What is left of a delivery; less than nothing is a miscount. */
export function leftWords(item: Pick<Stock, "remaining_g">): { words: string; short: boolean } {
  const left = Number(item.remaining_g);
  return { words: `${figure(left, 0)}${GAP}g left${left < 0 ? ": count it" : ""}`, short: left < 0 };
}

export type StockAct = "read" | "trace" | "count" | "label";

/** What may be done with a delivery: a reader looks where it went; what is gone is neither read nor labelled, what was recalled is not counted. */
export function actsOn(item: Pick<Stock, "view" | "gone_at" | "recalled">, mayMake: boolean): StockAct[] {
  const here = mayMake && !item.gone_at;
  const acts: StockAct[] = here && item.view.readable ? ["read", "trace"] : ["trace"];
  if (mayMake && !item.recalled) acts.push("count");
  if (here) acts.push("label");
  return acts;
}

/** The delivery with a code, as it is scanned or typed. */
export const byCode = (items: readonly Stock[], code: string | undefined) => items.find((item) => item.code === code?.toUpperCase());

/** Why a delivery that was asked for by its code is not shown. */
export const absentWords = (code: string, gone: boolean) =>
  gone ? `There is no delivery ${code.toUpperCase()} here.` : `${code.toUpperCase()} is not on the shelf: look under “What is gone”.`;
