/** What an answer to an open question would change of the product, in the fewest words. */

import type { Schemas } from "../../api/client";
import { figure } from "../../parts/numbers";

type Effect = Schemas["AnswerEffect"];

export interface Now {
  brix: number;
  acid: number;
  volume: number;
}

/** Least differences that are worth saying: °Bx, g per 100 mL of acid, and a share of the yield. */
const LEAST = { brix: 0.1, acid: 0.01, volume: 0.01 } as const;

/** The figure that an answer moves most for its size, as it would be then; "" for one that moves nothing, or that was not tried. */
export function effectSaid(answer: Effect, now: Now): string {
  const { brix, acid_g_100ml: acid, volume_ml: volume } = answer;
  if (brix === null || acid === null || volume === null) return "";
  const moved = [
    { share: share(brix, now.brix, LEAST.brix), words: `${figure(brix, 1)} °Bx` },
    { share: share(acid, now.acid, LEAST.acid), words: `acid ${figure(acid, 2)}` },
    { share: share(volume, now.volume, LEAST.volume * now.volume), words: `${figure(volume / 1000, 2)} L` },
  ];
  const most = moved.reduce((best, next) => (next.share > best.share ? next : best));
  return most.share > 0 ? most.words : "";
}

/** How far a figure moves, as a share of what it is; 0 for less than is worth saying. */
function share(then: number, before: number, least: number): number {
  const by = Math.abs(then - before);
  return by < least ? 0 : by / Math.max(Math.abs(before), least);
}
