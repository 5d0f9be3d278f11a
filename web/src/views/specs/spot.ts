import type { Figure, Schemas } from "../../api/client";
import type { PlateSpot } from "../../plate/layout";

const half = (data: Figure) => (data.high - data.low) / 2;

/** Where a product stands on the plate, with its half-ranges; null where it is dry, or where nothing is made. */
export function spotOf(final: Schemas["FinalResult"] | null): (PlateSpot & { sugarHalf: number; acidHalf: number }) | null {
  const { sugar_g_100ml: sugar, acid_g_100ml: acid } = final ?? {};
  return sugar && acid ? { sugar: sugar.value, acid: acid.value, sugarHalf: half(sugar), acidHalf: half(acid) } : null;
}
