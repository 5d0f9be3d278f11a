/** Which step is in hand, how close its row stands, and what is said of the draft's saving. */

import { moment } from "../../../parts/say";
import type { SaveState } from "./useDraft";

/** The step that an arrow leads to: the next or the one before; from none of them the first or the last. Null where there is none. */
export function walked(steps: readonly { id: string }[], chosen: string | null, by: -1 | 1): string | null {
  const at = steps.findIndex((step) => step.id === chosen);
  const from = by > 0 ? 0 : steps.length - 1;
  const to = at < 0 ? from : Math.min(steps.length - 1, Math.max(0, at + by));
  return steps[to]?.id ?? null;
}

const MANY_ROWS = 14;

/** Rows stand closer where there are many, and the chosen one opens when it is looked at close up. */
export function rowHeight(opened: boolean, close: boolean, count: number): string {
  if (opened) return "md:min-h-[300px]";
  return close || count > MANY_ROWS ? "md:min-h-[64px]" : "md:min-h-[84px]";
}

export function saveWords(save: SaveState, zone: string): string {
  switch (save.status) {
    case "saved":
      return `saved ${moment(save.at, zone)}${save.by === "you" ? "" : ` by ${save.by}`}`;
    case "saving":
      return "saving …";
    case "kept":
      return "kept on this device, waiting for Ulsek";
    case "conflict":
      return "not saved here";
    case "refused":
      return "refused";
  }
}
