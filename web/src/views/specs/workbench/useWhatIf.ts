import { useCallback, useEffect, useMemo, useState } from "react";
import type { SpecFile } from "../../../api/client";
import { withTurned } from "./knobs";
import { type Remark, remarksOf } from "./remarks";
import type { DraftHandle, Result } from "./useDraft";

/** The draft as the workbench shows it: as it is, or with figures that are only tried. */
export interface Shown {
  body: SpecFile;
  result: Result;
  /** Every remark on it, the gravest first; the same list as long as nothing in it changes. */
  remarks: readonly Remark[];
  /** Figures that are tried, by the key of their knob. */
  turned: Readonly<Record<string, number>>;
  trying: boolean;
  turn: (turned: Record<string, number>) => void;
  /** What is tried becomes the draft. */
  keep: () => void;
}

export function useWhatIf(draft: DraftHandle): Shown {
  const [turned, turn] = useState<Readonly<Record<string, number>>>({});
  const trying = Object.keys(turned).length > 0;
  const { knobs } = draft.result;
  const body = useMemo(() => (trying ? withTurned(draft.body, turned, knobs) : draft.body), [trying, draft.body, turned, knobs]);
  const { tries, edit } = draft;
  useEffect(() => tries(trying ? body : null), [tries, trying, body]);
  const result = (trying && draft.tried) || draft.result;
  const { remarks: own, by_others } = result;
  const remarks = useMemo(() => remarksOf({ remarks: own, by_others }), [own, by_others]);
  const keep = useCallback(() => {
    edit(() => body);
    turn({});
  }, [edit, body]);
  return { body, result, remarks, turned, trying, turn, keep };
}
