/** What is tried with a slider: the draft with some of the core's knobs turned. */

import type { Schemas, SpecAmount, SpecFile, SpecStep } from "../../../api/client";
import { typed } from "../../../parts/numbers";
import { changeLine, changeStep, steps } from "./body";

export type Knob = Schemas["Knob"];
type Fields = Readonly<Record<string, unknown>>;

const lineOf = (body: SpecFile, id: string) =>
  steps(body)
    .flatMap((step) => step.lines ?? [])
    .find((line) => line.id === id);

/** What stands in the draft where a knob turns it: newer than the knob while the draft is being saved. */
export function valueNow(body: SpecFile, knob: Knob): number {
  const holder = knob.line === null ? steps(body).find((step) => step.id === knob.step) : lineOf(body, knob.line)?.amount;
  const value = (holder as Fields | undefined)?.[knob.field];
  return (typeof value === "string" ? typed(value) : typeof value === "number" ? value : null) ?? knob.value;
}

/** The draft with one figure in the place of the one that stands there. */
function turn(body: SpecFile, { step, line, field }: Knob, value: number): SpecFile {
  if (line === null) return changeStep(step, { [field]: value } as Partial<SpecStep>)(body);
  return changeLine(line, { amount: { ...lineOf(body, line)?.amount, [field]: value } as unknown as SpecAmount })(body);
}

/** The draft with every turned knob in it. */
export function withTurned(body: SpecFile, turned: Readonly<Record<string, number>>, knobs: readonly Knob[]): SpecFile {
  return knobs.reduce((next, knob) => {
    const value = turned[knob.key];
    return value === undefined ? next : turn(next, knob, value);
  }, body);
}
