/** How a card is asked for, and what has to be said or done before it is made from. */

import type { Schemas } from "../../../api/client";
import type { CardWish } from "../../../api/queries";
import { STRIDES, USUAL } from "../../../api/rules";

export type Card = Schemas["CardOut"];

export const SCALES = [
  { value: "spec", label: "as the spec says" },
  { value: "volume_ml", label: "to a yield, mL" },
  { value: "serves", label: "to serves" },
  { value: "have_g", label: "I have this much, g" },
  { value: "times", label: "so many times the spec" },
] as const;
export type Scale = (typeof SCALES)[number]["value"];

type Sizes = Pick<Card, "serves" | "volume_ml">;

export interface Asked {
  language: CardWish["language"];
  beside: NonNullable<CardWish["beside"]>;
  chosen: Readonly<Record<string, string>>;
  number: number | undefined;
  scale: Scale;
  /** How much, by the scale; null while it is no figure. */
  value: number | null;
}

/** What the site is asked: the batch only where it is wanted in another size, and how much of it can be read. */
export function cardWish({ language, beside, chosen, number, scale, value }: Asked): CardWish {
  return {
    language,
    beside,
    chosen: Object.entries(chosen)
      .map(([group, choice]) => `${group}=${choice}`)
      .join(","),
    ...(number ? { number } : {}),
    ...(scale !== "spec" && value !== null ? { [scale]: value } : {}),
  };
}

/** The size of a batch now, by one way of asking for it. */
export const sizeNow = (scale: Exclude<Scale, "spec">, made: Sizes) =>
  Math.round({ serves: made.serves, times: 1, volume_ml: made.volume_ml, have_g: USUAL.have_g }[scale]);

/** The size after one press of + (1) or − (−1): never nothing, and never less. */
export function stepped(scale: Exclude<Scale, "spec">, made: Sizes, value: number | null, by: 1 | -1): number {
  const stride = STRIDES[scale];
  return Math.max(Math.min(1, stride), (value ?? sizeNow(scale, made)) + by * stride);
}

export interface CopyState {
  withdrawn: boolean;
  /** The version that takes the place of a withdrawn one. */
  successor: number | null;
  /** The paper in the hand is older than what is shown. */
  outdated: boolean;
  /** What is shown is not the newest. */
  newer: number | null;
}

/** Whether this is what holds now, for whoever carries version `carried` on paper. */
export function copyState(made: Pick<Card, "withdrawn" | "successor" | "number" | "newest">, carried: number | null): CopyState {
  const withdrawn = Boolean(made.withdrawn);
  return {
    withdrawn,
    successor: withdrawn ? (made.successor ?? null) : null,
    outdated: carried !== null && carried < made.newest,
    newer: !withdrawn && made.number < made.newest ? made.newest : null,
  };
}

/** What this person has still to do before making it. */
export function stillToDo(found: Pick<Schemas["ReadingState"], "critical" | "acknowledged" | "passed" | "questions">, role: string) {
  return {
    acknowledge: found.critical && !found.acknowledged,
    answer: role === "maker" && !found.passed && found.questions.length > 0,
  };
}
