import { figure } from "../../../parts/numbers";
import type { AtHand } from "./atHand";

type Told = Pick<AtHand, "step" | "line" | "number" | "planned" | "waits" | "begun" | "last" | "volume">;

/** What a screen reader says when the instruction changes. It holds nothing that moves while something is poured or a clock runs. */
export function spoken(hand: Told, steps: number): string {
  const { step, line, number, planned, waits, begun, last, volume } = hand;
  if (!step) return "Every step is done.";
  const at = `Step ${number} of ${steps}. `;
  if (line) return `${at}${line.name}, ${planned === null ? "by weight" : `${figure(planned)} grams`}. ${step.title}.`;
  if (waits) return `${at}${step.title}. ${begun ? "The clock runs." : "The clock is not started yet."}`;
  return `${at}${step.title}.${last && volume > 0 ? ` ${figure(volume / 1000, 2)} litres expected.` : ""}`;
}
