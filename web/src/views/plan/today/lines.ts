/** What a line of the list says in short. Display only: every figure comes from the core. */

import type { Schemas } from "../../../api/client";
import { figure, GAP } from "../../../parts/numbers";
import { clock, day } from "../../../parts/say";

export type Line = Schemas["ListLine"];
export type Today = Schemas["TodayOut"];

/** “310 mL”, “1.43 L”. */
export const volume = (ml: number): string => (ml >= 1000 ? `${figure(ml / 1000, 2)}${GAP}L` : `${figure(ml, 0)}${GAP}mL`);

export const bottles = (count: number): string => `${count} ${count === 1 ? "bottle" : "bottles"}`;

/** The clock today, else with its day: “11:30”, “Fri 04 Dec, 11:30”. */
export function startWords(at: string, today: string, zone: string): string {
  const same = day(at, zone) === day(`${today}T12:00:00Z`);
  return same ? clock(at, zone) : `${day(at, zone)}, ${clock(at, zone)}`;
}

/** Who takes it on, and who goes on with it later, each once. */
export const hands = (line: Line): string[] => [...new Set(line.hands.map((part) => part.name))].filter(Boolean);

/** One line of one person's own list first. */
export const forMe = (lines: readonly Line[], person: number): { mine: Line[]; others: Line[] } => ({
  mine: lines.filter((line) => line.hands[0]?.worker === String(person)),
  others: lines.filter((line) => line.hands[0]?.worker !== String(person)),
});

const COLOURS: Record<string, readonly string[]> = {
  sugar: ["syrup", "infused_syrup", "sweetener_syrup", "oil_sugar", "soda_syrup", "fruit_syrup", "clarified_syrup"],
  acid: ["cordial", "solution", "acid_adjusted_juice", "sour_mix", "stretched_citrus", "clarified_juice", "shrub"],
  spirit: ["spirit_infusion", "spirited_syrup", "bitter_base"],
  solids: ["nut_puree", "fruit_puree"],
};

/** The colour of the material that a family is mostly about. */
export const colourOf = (family: string): string =>
  `var(--${Object.keys(COLOURS).find((band) => COLOURS[band]?.includes(family)) ?? "water"})`;
