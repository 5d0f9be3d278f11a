/** Which readings are offered first, and what is recorded of one. */

import { READINGS } from "../../../api/figures";
import { figure, GAP } from "../../../parts/numbers";
import type { EventBody } from "../../../sync/event";

export type Kind = (typeof READINGS)[number];

/** Every kind of reading, those first that the step at hand is watched by. */
export function readingsInOrder(watched: readonly string[] = []): { kind: Kind; first: boolean }[] {
  const kinds = READINGS.map((kind) => ({ kind, first: watched.includes(kind.property) }));
  return [...kinds.filter((item) => item.first), ...kinds.filter((item) => !item.first)];
}

/** What is recorded of a reading; what is read while a step goes on belongs to its watch. */
export function readBody(
  property: EventBody<"read">["property"],
  read: Omit<EventBody<"read">, "property" | "step">,
  watched: readonly string[] = [],
  step: string | null = null,
): EventBody<"read"> {
  return { property, ...read, ...(step !== null && watched.includes(property) ? { step } : {}) };
}

/** Why a weight is refused: no more than the container that it stands in weighs empty. */
export const refusedWeight = (value: number, container: { name: string; tare_g: number } | undefined) =>
  container && value <= container.tare_g ? `${container.name} weighs ${figure(container.tare_g)}${GAP}g empty: this is no more.` : null;
