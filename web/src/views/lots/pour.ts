/** Whether a bottle may be poured, and what may be done with it. */

import type { Schemas } from "../../api/client";
import { typed } from "../../parts/numbers";

export type Lot = Schemas["LotOut"];

export interface Verdict {
  good: boolean;
  words: string;
}

/** Whether a lot may be poured at a moment. The core judged it when it was asked: what has changed by itself since then is not good any more. */
export function mayPour(lot: Pick<Lot, "standing" | "what">, now: number): Verdict {
  const { state, until } = lot.standing;
  if (state === "good" && (until === null || now < Date.parse(until))) {
    return { good: true, words: lot.what ? "Good to use" : "Good to pour" };
  }
  return { good: false, words: state === "resting" ? "Not ready yet" : "Do not pour" };
}

export interface Asked {
  name: "amount" | "place" | "text" | "reason" | "from";
  ask: string;
  /** May stay empty. */
  free?: true;
}
export interface LotAction {
  word: string;
  asks: readonly Asked[];
  about?: string;
}
const howMuch = (ask: string): Asked => ({ name: "amount", ask });

export const LOT_ACTIONS: Readonly<Record<string, LotAction>> = {
  opened: { word: "Open it", asks: [] },
  used: { word: "Used some", asks: [howMuch("How much went")] },
  decanted: {
    word: "Decant some",
    asks: [howMuch("How much goes into the rail bottle"), { name: "place", ask: "Where that stands", free: true }],
    about: "A lot of its own, opened from now on, with its own label.",
  },
  topped_up: {
    word: "Top it up",
    asks: [{ name: "from", ask: "Which lot is poured in" }, howMuch("How much of it")],
    about: "The mixture takes the earlier date, all allergens, and the rules of both.",
  },
  moved: { word: "Move it", asks: [{ name: "place", ask: "Where it stands now" }] },
  counted: { word: "Count it", asks: [howMuch("How much is left")] },
  split: { word: "Split some off", asks: [howMuch("How much goes into another bottle")] },
  tasted: { word: "Taste it", asks: [{ name: "text", ask: "How it tastes today" }] },
  tossed: { word: "Toss it", asks: [{ name: "reason", ask: "Why" }] },
};

/** What may be done with a lot: nothing once it is gone, and it is opened once. */
export const actionsOn = (lot: Pick<Lot, "gone_at" | "opened_at">): string[] =>
  lot.gone_at ? [] : Object.keys(LOT_ACTIONS).filter((kind) => kind !== "opened" || !lot.opened_at);

/** What is sent of an action, from what was typed: an amount as a number, or null where it is none. */
export const saidOf = (kind: string, said: Readonly<Record<string, string>>): Record<string, string | number | null> =>
  Object.fromEntries(
    (LOT_ACTIONS[kind]?.asks ?? []).map(({ name }) => [name, name === "amount" ? typed(said[name] ?? "") : (said[name] ?? "").trim()]),
  );
