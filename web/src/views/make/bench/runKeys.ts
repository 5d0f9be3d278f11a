/** The keys of a batch at the bench. */

import type { KeyAction } from "../../../parts/keys";
import type { OpenSheet } from "../sheets/sheetProps";

interface RunKeys {
  mayMake: boolean;
  /** Something is to be weighed, and nothing that was done is still being worked out. */
  mayType: boolean;
  /** What is weighed comes from the store. */
  mayDraw: boolean;
  words: string;
  act: () => void;
  tare: () => void;
  open: (sheet: OpenSheet) => void;
}

/** What each key does; none for whoever only watches. */
export function runKeys({ mayMake, mayType, mayDraw, words, act, tare, open }: RunKeys): KeyAction[] {
  if (!mayMake) return [];
  const opens = (key: string, says: string, sheet: OpenSheet, may = true) => ({ key, says, does: () => may && open(sheet) });
  return [
    { key: " ", says: words, does: act },
    { key: "Enter", says: words, does: act },
    { key: "0", says: "tare the scale", does: tare },
    opens("t", "look, smell, taste", "taste"),
    opens("m", "more", "more"),
    opens("e", "type a weight", "weigh", mayType),
    opens("r", "reading", "reading"),
    opens("w", "weigh ahead", "ahead"),
    opens("f", "from another crate or bottle", "supply", mayDraw),
    opens("h", "hand over", "hand"),
    opens("x", "went wrong", "wrong"),
    opens("l", "what happened so far", "story"),
  ];
}
