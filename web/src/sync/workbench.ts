/** What the workbench shows while an edit is worked out, and whether two answers say the same. Framework-free. */

import type { Figure, Schemas } from "../api/client";

export type Workbench = Schemas["Workbench"];
export type PlainFlow = Schemas["PlainFlow"];
type Step = Schemas["StepResult"];

const PRODUCT = ["mass_g", "volume_ml", "density_g_ml", "brix", "brix_reading", "sugar_g_100ml", "acid_g_100ml", "abv"] as const;

/** A new value with the range that stood around the old one, until its own is worked out. */
const moved = (now: Figure, before: Figure | null | undefined): Figure =>
  before ? { value: now.value, low: now.value + before.low - before.value, high: now.value + before.high - before.value } : now;

function product(before: Schemas["FinalResult"] | null, step: Step | undefined): Schemas["FinalResult"] | null {
  if (!before || !step) return null;
  const figures = PRODUCT.flatMap((name) => (step[name] ? [[name, moved(step[name], before[name])] as const] : []));
  return { ...before, ...Object.fromEntries(figures), bands: step.bands };
}

/** The last answer with the plain flow of an edit in it: what needs more work than the flow stands as it was. */
export function withPlain(before: Workbench, plain: PlainFlow): Workbench {
  const known = new Map(before.steps.map((step) => [step.id, step]));
  const steps = plain.steps.map((step): Step => {
    const old = known.get(step.id);
    const abv = step.abv ? { abv: moved(step.abv, old?.abv) } : {};
    return { ...step, mass_g: moved(step.mass_g, old?.mass_g), ...abv };
  });
  const final = product(
    before.final,
    plain.steps.find((step) => step.id === plain.product),
  );
  return { ...before, steps, words: plain.words, final };
}

/** Relative difference of two numbers that no digit on a screen shows. */
const SAME = 1e-9;

const sameNumber = (one: number, other: number) => Math.abs(one - other) <= SAME * Math.max(1, Math.abs(one), Math.abs(other));

/** Where two answers first differ, as a path with both values; null where they say the same in every digit. */
export function difference(here: unknown, there: unknown, path = ""): string | null {
  if (typeof here === "number" && typeof there === "number" && sameNumber(here, there)) return null;
  if (here === null || there === null || typeof here !== "object" || typeof there !== "object") {
    return Object.is(here, there) ? null : `${path}: ${JSON.stringify(here)} here, ${JSON.stringify(there)} there`;
  }
  const [one, other] = [here, there] as [Record<string, unknown>, Record<string, unknown>];
  for (const key of new Set([...Object.keys(one), ...Object.keys(other)])) {
    const found = difference(one[key], other[key], path ? `${path}/${key}` : key);
    if (found) return found;
  }
  return null;
}
