/** The remarks on a spec, those that depend on the house's other specs among them, the gravest first. */

import type { Schemas } from "../../../api/client";

export type Remark = Schemas["Remark"];

const RANK: Readonly<Record<string, number>> = { stop: 0, check: 1, note: 2 };

export function remarksOf({ remarks, by_others }: Pick<Schemas["Workbench"], "remarks" | "by_others">): Remark[] {
  return [...remarks, ...by_others].sort((one, other) => (RANK[one.severity] ?? 0) - (RANK[other.severity] ?? 0));
}
