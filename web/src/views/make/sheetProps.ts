import type { Now } from "./now";
import type { Bench, Run } from "./useBench";

/** The sheet that is open over the bench, by name. */
export type OpenSheet =
  | "weigh"
  | "reading"
  | "taste"
  | "wrong"
  | "story"
  | "finish"
  | "ahead"
  | "hand"
  | "more"
  | "sample"
  | "supply"
  | null;

/** What every sheet over the bench takes. */
export interface SheetProps {
  open: boolean;
  onClose: () => void;
  run: Run;
  now: Now;
  bench: Bench;
}
