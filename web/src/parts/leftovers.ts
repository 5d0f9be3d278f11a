/** What a batch leaves besides its product, in words: how much of it, how long it keeps, what becomes of it. */

import type { Schemas } from "../api/client";
import { figure, GAP } from "./numbers";

export type Leftover = Schemas["Leftover"];

/** A volume where it pours, else a weight: “750 mL”, “36 g”. */
export const leftAmount = (item: Leftover): string =>
  item.volume_ml >= 1 ? `${figure(item.volume_ml, 0)}${GAP}mL` : `${figure(item.mass_g, 0)}${GAP}g`;

/** “cold, closed; 3 days at 5 °C or colder” */
export function leftKeeps(item: Leftover): string {
  const dated = `${item.days} ${item.days === 1 ? "day" : "days"} at ${item.at_most_c}${GAP}°C or colder`;
  return item.how ? `${item.how}; ${dated}` : dated;
}

/** “Freeze it in portions: 5 min of hands” */
export const leftOffer = (item: Leftover): string =>
  item.hands_min > 0 ? `${item.offer}: ${figure(item.hands_min, 0)}${GAP}min of hands` : item.offer;
