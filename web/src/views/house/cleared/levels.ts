/** How far somebody has come with a spec, and the mark that stands for it. */

import type { Schemas } from "../../../api/client";

interface Level {
  mark: string;
  word: string;
  holds: (did: Schemas["Practice"]) => boolean;
}

/** From the furthest to nothing at all: the first that holds counts. */
export const LEVELS: readonly Level[] = [
  { mark: "✓", word: "cleared", holds: (did) => did.cleared_at != null },
  { mark: "M", word: "made it", holds: (did) => did.made > 0 },
  { mark: "B", word: "made it beside somebody", holds: (did) => did.beside_at != null },
  { mark: "T", word: "tried it as a rehearsal", holds: (did) => did.rehearsed_at != null },
  { mark: "R", word: "read it", holds: (did) => did.read_at != null },
  { mark: "–", word: "nothing yet", holds: () => true },
];
const NOTHING = LEVELS[LEVELS.length - 1] as Level;

export const levelOf = (did: Schemas["Practice"] | undefined): Level =>
  did ? (LEVELS.find((level) => level.holds(did)) ?? NOTHING) : NOTHING;
