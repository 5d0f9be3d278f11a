import type { SpecFile, SpecStep } from "../../../api/client";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { changeStep, type Verb } from "./body";

interface StepParamProps {
  param: Verb["params"][number];
  step: SpecStep;
  fault: string | undefined;
  edit: (change: (body: SpecFile) => SpecFile) => void;
}

/** One parameter of the step's verb, as the verb declares it: a figure with its unit, a prior with its range, one of a few words. */
export function StepParam({ param, step, fault, edit }: StepParamProps) {
  const value = step[param.name as keyof SpecStep];
  const set = (next: unknown) => edit(changeStep(step.id, { [param.name]: next } as Partial<SpecStep>));
  if (param.kind === "choice" || param.kind === "flag") {
    const words = param.kind === "flag" ? ["no", "yes"] : param.allowed;
    const now = param.kind === "flag" ? (value ? "yes" : "no") : String(value ?? param.usual);
    return (
      <Choice
        label={param.label}
        value={now}
        options={words.map((word) => ({ value: word, label: `${param.label}: ${word.replaceAll("_", " ")}` }))}
        onChange={(next) => set(param.kind === "flag" ? next === "yes" : next)}
      />
    );
  }
  const usual = param.kind === "range" ? param.usual : null;
  const typical = usual ? `${usual.value} (${usual.low} to ${usual.high})` : "";
  return (
    <Field
      label={param.label}
      unit={param.kind === "text" ? "" : param.unit}
      className={param.kind === "text" ? "w-48" : "w-40"}
      inputMode={param.kind === "text" ? "text" : "decimal"}
      placeholder={typical}
      value={value === undefined || value === null || typeof value === "object" ? "" : String(value)}
      fault={fault}
      onChange={(next) => set(next === "" && param.kind === "range" ? undefined : next)}
    />
  );
}
