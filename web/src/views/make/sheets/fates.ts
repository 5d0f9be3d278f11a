/** What becomes of what is left over at the finish, as it is typed and as it is recorded. */

import type { Figure, Schemas } from "../../../api/client";
import { typed } from "../../../parts/numbers";
import type { EventBody } from "../../../sync/event";

type Leftover = Schemas["Leftover"];
type Asked = Schemas["LeftoverAsked"];

/** What becomes of something left over, as it is typed. */
export interface Fated {
  to: "lot" | "bin";
  mass: string;
  reason: string;
  rest: string;
}

/** What was said of it; before anybody said anything, what usually becomes of it. */
export const fateOf = (item: Leftover, asked: Asked, fates: Readonly<Record<string, Fated>>): Fated =>
  fates[item.key] ?? { to: asked.usual, mass: String(Math.round(item.mass_g)), reason: "not needed", rest: "" };

/** −1 below what may be without a question, 1 above it, 0 within. */
export function outside(value: number | null, expected: Figure | null | undefined): -1 | 0 | 1 {
  if (value === null || !expected) return 0;
  return value < expected.low ? -1 : value > expected.high ? 1 : 0;
}

export const restAsked = (off: -1 | 1): string =>
  off < 0 ? "Where is the rest: spilled, poured, left in a pot?" : "What was added, or was it read wrong?";

export const offOf = (item: Leftover, fate: Fated) => (fate.to === "lot" ? outside(typed(fate.mass), item.expected_g) : 0);

/** Whether nothing about it is left to say. */
export const isAnswered = (item: Leftover, fate: Fated): boolean =>
  fate.to === "bin" ? fate.reason.trim() !== "" : typed(fate.mass) !== null && (offOf(item, fate) === 0 || fate.rest.trim() !== "");

/** What the finish records of it. */
export function fateBody(item: Leftover, asked: Asked, fate: Fated): NonNullable<EventBody<"finished">["by_products"]>[number] {
  const which = { name: asked.called, key: item.key };
  if (fate.to === "bin") return { ...which, to: "bin", reason: fate.reason.trim() };
  const rest = offOf(item, fate) ? { rest: fate.rest.trim() } : {};
  return { ...which, to: "lot", mass_g: typed(fate.mass) ?? item.mass_g, ...rest };
}
