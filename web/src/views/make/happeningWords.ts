/** What happens at the bench, as a person would say it to another: it stands in lists of what waits, and is signed with the event. */

import { amount } from "../../parts/numbers";
import type { Happening, Run } from "../../sync/runDesk";

type Part = string | number;
const some = (value: Part | undefined, unit: string) => (typeof value === "number" ? amount(value, unit) : "some");

export function happeningWords(run: Run, [kind, body]: Happening): string {
  const given = (body ?? {}) as Record<string, Part | undefined>;
  const steps = run.state.steps;
  const line = steps.flatMap((step) => step.lines).find((item) => item.id === given.line)?.name ?? "something";
  const step = steps.find((item) => item.id === given.step)?.title ?? "a step";
  const words: Record<string, string> = {
    weighed: `${some(given.mass_g, "g")} of ${line}`,
    went_on: `${some(given.mass_g, "g")} more of ${line}`,
    measured: `${some(given.volume_ml, "mL")} of ${line}`,
    counted: `${given.count} of ${line}`,
    dosed: `${given.drops} drops of ${line}`,
    read: `a reading, ${given.value ?? ""}`.trim(),
    tasted: `tasted: ${given.verdict}`,
    step_begun: `began “${step}”`,
    step_done: `“${step}” done`,
    step_skipped: `“${step}” skipped`,
    spilled: `${some(given.mass_g, "g")} spilled`,
    wrong_jar: `the wrong jar for ${line}`,
    handed_over: `handed over to ${given.to}`,
    noted: `a note: ${given.text}`,
    undone: "took the last thing back",
    finished: "bottled",
  };
  return `${words[kind] ?? kind.replaceAll("_", " ")} (${run.code})`.slice(0, 200);
}
