/** A cut plan as streams, and what it spares. */

import type { Schemas } from "../../../api/client";
import { figure } from "../../../parts/numbers";
import type { Flow } from "../../../river/acrossLayout";

type Answer = Schemas["PlanAnswer"];

/** The plan's streams: from each case to what is wanted, to what stays over, and into the bin. */
export function flowsOf(answer: Pick<Answer, "sources" | "wants" | "shares" | "over" | "bins">): {
  flows: Flow[];
  names: Map<string, string>;
} {
  const names = new Map<string, string>([["bin", "into the bin"]]);
  for (const item of answer.sources) names.set(item.case, item.name);
  for (const want of answer.wants) names.set(`want ${want.key}`, want.name);
  const flows: Flow[] = answer.shares.map((share) => ({
    from: share.case,
    to: `want ${share.want}`,
    kind: share.kind,
    grams: share.grams,
  }));
  for (const item of answer.over) {
    names.set(`over ${item.kind}`, `${item.kind} over`);
    flows.push({ from: item.case, to: `over ${item.kind}`, kind: item.kind, grams: item.grams });
  }
  for (const item of answer.bins ?? []) flows.push({ from: item.case, to: "bin", kind: "rest", grams: item.grams });
  return { flows, names };
}

/** What each want on its own would take and bin; nothing where it could not be had that way, or would bin no more. */
export function sparedWords(answer: Pick<Answer, "naive" | "bin_g">, money: (amount: string) => string): string {
  const { naive, bin_g } = answer;
  if (naive.short || naive.bin_g <= bin_g) return ".";
  return `; each want on its own would take ${naive.fruits} fruits, ${money(String(naive.cost))}, and bin ${figure(naive.bin_g / 1000, 2)} kg.`;
}
