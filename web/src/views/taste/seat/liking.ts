/** The line of a score: between its ends, in steps of a tenth. */

import { SCORE } from "../../../api/rules";

const STEPS = 10;
const held = (value: number) => Math.min(SCORE.most, Math.max(SCORE.least, Math.round(value * STEPS) / STEPS));

/** The score at a share of the line from its left end, 0 to 1. */
export const fromLine = (share: number) => held(SCORE.least + share * (SCORE.most - SCORE.least));

/** Where a score stands on the line: 0 at its left end, 1 at its right one. */
export const onLine = (score: number) => (score - SCORE.least) / (SCORE.most - SCORE.least);

/** The score after a key; the first key puts the mark into the middle. Null for any other key. */
export function stepped(score: number | null, key: string): number | null {
  const middle = held((SCORE.least + SCORE.most) / 2);
  switch (key) {
    case "ArrowRight":
    case "ArrowUp":
      return score === null ? middle : held(score + 1 / STEPS);
    case "ArrowLeft":
    case "ArrowDown":
      return score === null ? middle : held(score - 1 / STEPS);
    case "PageUp":
      return score === null ? middle : held(score + 1);
    case "PageDown":
      return score === null ? middle : held(score - 1);
    case "Home":
      return SCORE.least;
    case "End":
      return SCORE.most;
    default:
      return null;
  }
}
