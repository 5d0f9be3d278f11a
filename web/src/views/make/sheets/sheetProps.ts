import type { Now } from "../run/now";
import type { Bench, Run } from "../run/useBench";

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
