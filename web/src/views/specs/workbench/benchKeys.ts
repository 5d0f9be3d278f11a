/** The keys of the workbench. */

import type { KeyAction } from "../../../parts/keys";

interface BenchDeeds {
  type: () => void;
  addStep: () => void;
  undo: () => void;
  redo: () => void;
  flag: () => void;
  closeUp: () => void;
  walk: (by: -1 | 1) => void;
  working: () => void;
  fold: () => void;
}

/** What a key does: whoever may not edit walks, looks close up and opens a working. */
export function benchKeys(mayEdit: boolean, does: BenchDeeds): KeyAction[] {
  const editing: KeyAction[] = [
    { key: "n", says: "type the next step", does: does.type },
    { key: "e", says: "an empty step", does: does.addStep },
    { key: "u", says: "undo", does: does.undo },
    { key: "r", says: "redo", does: does.redo },
    { key: "f", says: "flag", does: does.flag },
  ];
  return [
    ...(mayEdit ? editing : []),
    { key: "z", says: "the chosen step close up, or all of them", does: does.closeUp },
    { key: "ArrowUp", says: "step before", does: () => does.walk(-1) },
    { key: "ArrowDown", says: "step after", does: () => does.walk(1) },
    { key: "w", says: "working", does: does.working },
    { key: "Escape", says: "fold the step", does: does.fold },
  ];
}
