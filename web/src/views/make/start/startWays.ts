/** The ways to size a batch, what each asks for, and what is sent of it. */

import { noNumber, typed } from "../../../parts/numbers";

export type Way = "spec" | "weight" | "yield" | "times";

interface Ask {
  field: "mass_g" | "volume_ml" | "factor";
  label: string;
  unit: string;
}

const WAYS: readonly { value: Way; label: string }[] = [
  { value: "spec", label: "as the spec says" },
  { value: "weight", label: "from what I weighed" },
  { value: "yield", label: "to a yield" },
  { value: "times", label: "so many times the spec" },
];

/** The ways that a spec can be sized by: a weight sizes it only where one of its lines sets the batch. */
export const waysOf = (driver: string) => WAYS.filter((way) => way.value !== "weight" || driver);

/** What a way asks for; nothing where the spec says it all. */
export function asked(way: Way, driver: string): Ask | null {
  if (way === "weight") return { field: "mass_g", label: `What the scale shows of ${driver.toLowerCase()}`, unit: "g" };
  if (way === "yield") return { field: "volume_ml", label: "How much it should make", unit: "mL" };
  return way === "times" ? { field: "factor", label: "How many times", unit: "×" } : null;
}

/** What is sent of a typed amount, or what is wrong with it in words. */
export function sized(ask: Ask | null, amount: string): { size: Record<string, number> } | { fault: string } {
  if (!ask) return { size: {} };
  const value = typed(amount);
  if (value !== null) return { size: { [ask.field]: value } };
  return { fault: noNumber(amount, "1340", "Type a figure, such as 2.") };
}
