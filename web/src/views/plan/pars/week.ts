import { typed } from "../../../parts/numbers";

/** The days of a week as the house writes them, Monday first. */
export const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;

/** Seven typed volumes; an empty day is none. Null while one of them is no number yet, or all are empty. */
export function weekOf(texts: readonly string[]): number[] | null {
  if (texts.every((text) => !text.trim())) return null;
  const found = texts.map((text) => (text.trim() ? typed(text) : 0));
  return found.every((value) => value !== null) ? found : null;
}
