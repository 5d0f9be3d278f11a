/** One cut of a plan: what it gives in words, and what is kept of it once it is made. */

import type { Schemas } from "../../../api/client";
import { figure, GAP, typed } from "../../../parts/numbers";
import { unitOf } from "./wants";

export type Cut = Schemas["PlanAnswer"]["cuts"][number];

const SKIN = ["zest", "peel"] as const;
/** Units of what is measured; wheels and fruits are counted, and their kind says so. */
const MEASURED = ["mL", "g"];

/** The skin that a cut gives, if any. */
const skinOf = (cut: Pick<Cut, "gives">) => SKIN.find((kind) => cut.gives[kind] !== undefined);

/** What a cut gives, such as "240 mL juice", skin with its range. */
export function givesWords(cut: Pick<Cut, "gives" | "gives_range">): string[] {
  return Object.entries(cut.gives).map(([kind, amount]) => {
    const range = cut.gives_range?.[kind];
    const spread = range && SKIN.some((skin) => skin === kind) ? `(${figure(range.low ?? 0, 0)} to ${figure(range.high ?? 0, 0)})` : "";
    return [figure(amount, 0), MEASURED.includes(unitOf(kind)) ? unitOf(kind) : "", kind, spread].filter(Boolean).join(GAP);
  });
}

/** What is typed of a cut that is made. What stays empty was not measured, and is sent as 0, from which nothing is learned. */
export interface Gave {
  count: string;
  juice_ml: string;
  skin_g: string;
  skin_binned_g: string;
}
export const GAVE = ["count", "juice_ml", "skin_g", "skin_binned_g"] as const satisfies (keyof Gave)[];

/** What is asked of a cut that is made: its fruits, and what it gives. */
export function asksOf(cut: Pick<Cut, "gives">): { name: keyof Gave; label: string; unit?: string }[] {
  const skin = skinOf(cut);
  return [
    { name: "count", label: "Fruits" },
    ...(cut.gives.juice === undefined ? [] : [{ name: "juice_ml", label: "Juice", unit: "mL" } as const]),
    ...(skin
      ? ([
          { name: "skin_g", label: skin === "zest" ? "Zest" : "Peel", unit: "g" },
          { name: "skin_binned_g", label: "Of it thrown", unit: "g" },
        ] as const)
      : []),
  ];
}

/** Whether something was typed that is no figure. */
export const isUnread = (text: string) => text.trim() !== "" && typed(text) === null;

export const isReadable = (gave: Gave) => !GAVE.some((name) => isUnread(gave[name]));

/** What is kept of a cut, once all that was typed is readable. */
export const gaveBody = (gave: Gave): Record<keyof Gave, number> => ({
  count: typed(gave.count) ?? 0,
  juice_ml: typed(gave.juice_ml) ?? 0,
  skin_g: typed(gave.skin_g) ?? 0,
  skin_binned_g: typed(gave.skin_binned_g) ?? 0,
});
