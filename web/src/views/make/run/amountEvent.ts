/** How much of a line went in, as an event: by scale, count, jug or dropper. */

import { type Happening, thatCount } from "../../../sync/event";
import type { Run } from "../../../sync/runDesk";

type Line = Run["state"]["steps"][number]["lines"][number];
type RunEvent = Run["events"][number];
type AmountKind = "weighed" | "counted" | "measured" | "dosed";

/** The kinds of event that say how much of a line went in. */
export const AMOUNT_KINDS: readonly AmountKind[] = ["weighed", "counted", "measured", "dosed"];

export const isAmount = (event: RunEvent): event is Extract<RunEvent, { kind: AmountKind }> =>
  (AMOUNT_KINDS as readonly string[]).includes(event.kind);

/** What went in [g, pieces, mL or drops of `dropMl` mL], as an event; one that was in before is replaced knowingly. */
export function amountEvent(run: Run, line: Line, kind: AmountKind, value: number, dropMl: number | null = null): Happening {
  const before =
    line.actual_g === null
      ? undefined
      : thatCount(run)
          .filter(isAmount)
          .findLast((item) => item.body.line === line.id);
  const common = { line: line.id, planned_g: line.planned_g?.value ?? null, ...(before ? { replaces: before.id } : {}) };
  if (kind === "weighed") return [kind, { ...common, mass_g: value }];
  if (kind === "counted") return [kind, { ...common, count: value }];
  if (kind === "measured") return [kind, { ...common, volume_ml: value }];
  return [kind, { ...common, drops: value, drop_ml: dropMl }];
}
