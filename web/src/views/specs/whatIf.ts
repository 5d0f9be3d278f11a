/** What may be tried with a slider: the figures of a draft that decide most, and the draft with one of them changed. */

import type { SpecAmount, SpecFile, SpecStep } from "../../api/client";
import { changeLine, changeStep, shownSteps } from "./body";

export interface Knob {
  key: string;
  label: string;
  unit: string;
  value: number;
  low: number;
  high: number;
  stride: number;
  turn: (value: number) => (body: SpecFile) => SpecFile;
}

const STEPS: readonly {
  name: "to_fraction" | "minutes" | "kept" | "temperature_c";
  label: string;
  unit: string;
  most: number;
  verbs: readonly string[];
}[] = [
  { name: "to_fraction", label: "reduced to", unit: "of its weight", most: 1, verbs: ["reduce", "vacuum_reduce"] },
  { name: "minutes", label: "steeped", unit: "min", most: 20000, verbs: ["steep", "infuse"] },
  { name: "kept", label: "drip kept", unit: "of the thaw", most: 1, verbs: ["freeze_drip"] },
];
const MOST = 6;

const number = (value: unknown): number | null => {
  const found = typeof value === "string" ? Number(value.replace(",", ".")) : value;
  return typeof found === "number" && Number.isFinite(found) && found > 0 ? found : null;
};

/** Half of it to half as much again, in steps that a hand can tell apart. */
function span(value: number, most = Number.POSITIVE_INFINITY) {
  const stride = 10 ** Math.floor(Math.log10(value) - 1.3);
  const rounded = (x: number) => Number((Math.round(x / stride) * stride).toPrecision(6));
  return { low: rounded(value * 0.5), high: Math.min(most, rounded(value * 1.5)), stride: Number(stride.toPrecision(2)) };
}

export function knobs(body: SpecFile, names: Readonly<Record<string, string>>): Knob[] {
  const found: Knob[] = [];
  for (const step of shownSteps(body)) {
    for (const line of step.lines ?? []) {
      const amount = line.amount;
      const name = (names[line.material] ?? line.material).split(",")[0]?.toLowerCase() ?? line.material;
      const field =
        amount?.kind === "ratio" ? "ratio" : amount?.kind === "percent" ? "percent" : amount?.kind === "target" ? "value" : null;
      const value = field ? number((amount as unknown as Record<string, unknown>)[field]) : null;
      if (!field || value === null) continue;
      found.push({
        key: line.id,
        label: amount?.kind === "target" ? `target with ${name}` : name,
        unit: amount?.kind === "percent" ? "%" : amount?.kind === "ratio" ? "ratio" : "",
        value,
        ...span(value),
        turn: (next) => changeLine(line.id, { amount: { ...amount, [field]: next } as unknown as SpecAmount }),
      });
    }
    for (const item of STEPS) {
      const value = item.verbs.includes(step.verb) ? number(step[item.name as keyof SpecStep]) : null;
      if (value === null) continue;
      found.push({
        key: `${step.id}.${item.name}`,
        label: item.label,
        unit: item.unit,
        value,
        ...span(value, item.most),
        turn: (next) => changeStep(step.id, { [item.name]: next } as Partial<SpecStep>),
      });
    }
  }
  return found.slice(0, MOST);
}
