import { figure, GAP } from "../../../parts/numbers";

/** A mass as a pack is spoken of: in kilograms from one on. */
export const kilos = (grams: number): string => (grams >= 1000 ? `${figure(grams / 1000, 2)}${GAP}kg` : `${figure(grams, 0)}${GAP}g`);
