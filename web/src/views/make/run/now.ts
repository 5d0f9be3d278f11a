/** What the bench shows of a run's state: reading off, no rule of the job. */

import type { Schemas } from "../../../api/client";
import { BANDS, type Band } from "../../../parts/say";

type State = Schemas["RunResult"];
type Step = Schemas["RunStep"];
type Line = Schemas["RunLine"];

export interface Now {
  step: Step | null;
  number: number;
  line: Line | null;
  next: Step | null;
  /** The step after which the vessel at hand stands as it is. */
  touched: Step | null;
  /** What stands in the vessel this moment. */
  bands: Record<Band, number>;
}

const nothing = (): Record<Band, number> => ({ sugar: 0, acid: 0, solids: 0, spirit: 0, water: 0 });

/** The step at hand, its line, and the vessel as far as it is filled. */
export function nowOf(state: State): Now {
  const at = state.steps.findIndex((step) => step.id === state.current.step);
  const step = state.steps[at] ?? null;
  const flows = state.evaluation.steps;
  const before = step ? flows.slice(0, at).findLast((flow) => flow.vessel === step.vessel) : flows.at(-1);
  const bands = { ...nothing(), ...before?.bands };
  const here = step ? flows.find((flow) => flow.id === step.id) : undefined;
  for (const line of step?.lines ?? []) {
    const added = here?.added.find((item) => item.line === line.id);
    if (line.actual_g === null || !added) continue;
    for (const band of BANDS) bands[band] += added.bands[band];
  }
  return {
    step,
    number: at + 1,
    line: step?.lines.find((line) => line.id === state.current.line) ?? null,
    next: at >= 0 ? (state.steps.slice(at + 1).find((later) => later.state === "later") ?? null) : null,
    touched: state.steps.find((item) => item.id === state.current.touched) ?? null,
    bands,
  };
}

export const massOf = (bands: Readonly<Record<Band, number>>) => BANDS.reduce((all, band) => all + bands[band], 0);

/** The vessel with a share of what is being poured in it. */
export function withPoured(
  bands: Readonly<Record<Band, number>>,
  adds: Readonly<Record<Band, number>>,
  share: number,
): Record<Band, number> {
  const more = { ...bands };
  for (const band of BANDS) more[band] += adds[band] * share;
  return more;
}
