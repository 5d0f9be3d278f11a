/** A plan that is being typed and nobody has kept yet: it outlives a reload and a look at another place, for its person in its house. */

import { BLANK, type PlanText } from "./plan";

const nameOf = (house: number, person: number) => `ulsek.plan.${house}.${person}`;

/** What was typed before; a blank form where nothing was, or where what is there cannot be read. */
export function keptPlan(house: number, person: number): PlanText {
  try {
    return { ...BLANK, ...(JSON.parse(localStorage.getItem(nameOf(house, person)) ?? "{}") as Partial<PlanText>) };
  } catch {
    return BLANK;
  }
}

/** Keeps what is typed; null once the site has it. */
export function keepPlan(house: number, person: number, form: PlanText | null): void {
  if (form) localStorage.setItem(nameOf(house, person), JSON.stringify(form));
  else localStorage.removeItem(nameOf(house, person));
}
