/** The rules of a house: which are looked for, how a figure reads, and what is sent of one that was changed. */

import type { Schemas } from "../../../api/client";
import { GAP, typed } from "../../../parts/numbers";

export type Table = Schemas["RuleTable"];
export type Rule = Schemas["RuleRow"];

/** What is said of a rule in words; what its table does not ask for stays empty. */
export const UNSAID = { source: "", authority: "", by: "", why: "", cap: "", glass: "", unit: "" };

/** The rules whose words or source hold every word that is looked for; tables without any are left out. */
export function found(tables: readonly Table[], find: string): Table[] {
  const words = find.toLowerCase().split(/\s+/).filter(Boolean);
  const holds = (rule: Rule) => words.every((word) => `${rule.words} ${rule.key} ${rule.source}`.toLowerCase().includes(word));
  return tables.map((table) => ({ ...table, rows: table.rows.filter(holds) })).filter((table) => table.rows.length > 0);
}

/** A figure of a rule with its unit: “keeps 3 d”. */
export const said = ({ label, unit, value }: Schemas["RuleFigure"]): string => `${label} ${value}${unit ? GAP + unit : ""}`;

/** What ships, where the house has something else. */
export const shipped = ({ unit, ships }: Schemas["RuleFigure"]): string => `${ships}${unit ? GAP + unit : ""}`;

/** The figures that differ from those that ship, by name; null where one is no figure. */
export function figuresOf(rule: Rule, written: Readonly<Record<string, string>>): Record<string, number> | null {
  const sent: Record<string, number> = {};
  for (const { name, value, ships } of rule.figures) {
    const read = typed(written[name] ?? String(value));
    if (read === null) return null;
    if (read !== ships) sent[name] = read;
  }
  return sent;
}
