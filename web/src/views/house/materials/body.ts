/** A material of the open form as it is typed, and as it is sent. */

import type { Schemas } from "../../../api/client";
import { typed } from "../../../parts/numbers";
import { amountText, amountTyped, EMPTY, type Makeup, makeupSent, makeupTyped } from "./makeup";

type Body = Schemas["MaterialFile"]["body"];

export interface Typed {
  name: string;
  kind: string;
  makeup: Makeup;
  price: string;
  keeps: string;
  piece: string;
  bulk: string;
  /** Null where nobody has said what it holds. */
  allergens: readonly string[] | null;
  keepingClass: string;
  note: string;
}

/** What ships has its allergens told in full: none where it names none. */
export function bodyTyped(body: Body | undefined, ships = false): Typed {
  const made = (body ?? {}) as Record<string, unknown>;
  const text = (name: string) => String(made[name] ?? "");
  return {
    name: text("name"),
    kind: text("kind") || "other",
    makeup: body ? makeupTyped(made.makeup) : EMPTY,
    price: text("price_per_kg"),
    keeps: amountText(made.keeps_days),
    piece: amountText(made.piece_g),
    bulk: amountText(made.bulk_density_g_ml),
    allergens: Array.isArray(made.allergens) ? (made.allergens as string[]) : ships ? [] : null,
    keepingClass: text("keeping_class"),
    note: text("note"),
  };
}

/** What is sent of it: what is not typed here stays as it was, what was emptied is left out. */
export function bodySent(given: Typed, before: Body | undefined): { body: Record<string, unknown>; faults: Record<string, string> } {
  const { sent, faults } = makeupSent(given.makeup);
  // What nobody touched goes back to the last digit.
  const untouched = before && JSON.stringify(makeupTyped(before.makeup)) === JSON.stringify(given.makeup);
  const makeup = untouched ? before.makeup : sent;
  const body: Record<string, unknown> = { ...before, name: given.name.trim(), kind: given.kind, makeup };
  const put = (name: string, value: unknown) => {
    if (value === undefined || value === "") delete body[name];
    else body[name] = value;
  };
  const was = bodyTyped(before);
  const figure = (name: string, part: "price" | "keeps" | "piece" | "bulk", read: (text: string) => unknown) => {
    const text = given[part];
    const value = before && text === was[part] ? before[name] : text.trim() ? read(text) : undefined;
    if (value === null) faults[name] = "Write figures, such as 12 or 12 ± 1.";
    put(name, value);
  };
  figure("price_per_kg", "price", (text) => (typed(text) === null ? null : text.trim().replace(",", ".")));
  figure("keeps_days", "keeps", amountTyped);
  figure("piece_g", "piece", amountTyped);
  figure("bulk_density_g_ml", "bulk", amountTyped);
  put("allergens", given.allergens ?? undefined);
  put("keeping_class", given.keepingClass);
  put("note", given.note.trim());
  return { body, faults };
}
