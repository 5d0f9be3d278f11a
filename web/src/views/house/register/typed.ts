import type { Schemas } from "../../../api/client";
import { typed } from "../../../parts/numbers";

export type Kind = Schemas["RegisterKind"];

/** What was typed as figures, and what is wrong with it by figure. What is left empty is left out: the site says whether it is needed. */
export function figuresTyped(asked: readonly Schemas["RegisterFigure"][], written: Readonly<Record<string, string>>) {
  const figures: Record<string, number> = {};
  const faults: Record<string, string> = {};
  for (const { key, such } of asked) {
    const text = (written[key] ?? "").trim();
    if (!text) continue;
    const value = typed(text);
    if (value === null) faults[key] = `Write figures, such as ${such}.`;
    else figures[key] = value;
  }
  return { figures, faults };
}
