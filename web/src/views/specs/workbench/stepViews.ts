/** The rows of the workbench: what stands of each step beside the river, without its fields. */

import type { Schemas, SpecStep } from "../../../api/client";
import type { Remark } from "./remarks";

type Result = Pick<Schemas["Workbench"], "steps" | "words">;

/** An amount as it went in, with how it is measured and the house's second measure. */
export interface AmountView {
  line: string;
  name: string;
  grams: number;
  measured: string;
  beside: string;
  /** Nobody wrote it: the usual amount of its kind. */
  assumed: boolean;
}

export interface StepView {
  id: string;
  title: string;
  note: string;
  amounts: readonly AmountView[];
  remarks: readonly Remark[];
}

/** A remark stands at its step; whoever edits sees the faults of a field at that field, but a doubt, which is ticked off here. */
const standsAt = (remark: Remark, place: string, mayEdit: boolean) =>
  remark.where === place || (remark.where.startsWith(`${place}/`) && (!mayEdit || remark.code === "open_doubt"));

const isAssumed = (step: SpecStep, line: string): boolean => {
  const amount = step.lines?.find((item) => item.id === line)?.amount;
  return amount?.kind === "fixed" && amount.assumed === true;
};

export function stepViews(steps: readonly SpecStep[], result: Result, remarks: readonly Remark[], mayEdit: boolean): StepView[] {
  const { names, lines, beside, steps: titles } = result.words;
  const flows = new Map(result.steps.map((flow) => [flow.id, flow]));
  return steps.map((step) => ({
    id: step.id,
    title: titles[step.id] ?? step.verb,
    note: step.note ?? "",
    amounts: (flows.get(step.id)?.added ?? []).map(({ line, material, mass_g }) => ({
      line,
      name: names[material] ?? "",
      grams: mass_g.value,
      measured: lines[line] ?? names[material] ?? "",
      beside: beside[line] ?? "",
      assumed: isAssumed(step, line),
    })),
    remarks: remarks.filter((remark) => standsAt(remark, `steps/${step.id}`, mayEdit)),
  }));
}

/** What is only worth knowing stands where one looks: at the step in hand. */
export const remarksShown = (view: StepView, selected: boolean): readonly Remark[] =>
  view.remarks.filter((remark) => remark.severity !== "note" || selected);
