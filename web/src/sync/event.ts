/** Events of a run as this device makes them; their kinds and bodies are the core's, through the API's description. Framework-free. */

import type { Schemas } from "../api/client";
import { nextSequence } from "./database";

export type RunEvent = Schemas["EventIn"];
export type EventKind = RunEvent["kind"];
export type EventBody<K extends EventKind> = NonNullable<Extract<RunEvent, { kind: K }>["body"]>;
/** What happens, as an event tells it. */
export type Happening = { [K in EventKind]: readonly [kind: K, body: EventBody<K>] }[EventKind];

/** The events of a run that count, as the core folded them: without those taken back, and without what took them back. */
export const thatCount = <E extends Pick<RunEvent, "id">>(run: {
  events: readonly E[];
  state: Pick<Schemas["RunResult"], "passed_over">;
}): E[] => run.events.filter(({ id }) => !run.state.passed_over.includes(id));

const DEVICE = "ulsek.device";

function device(): string {
  const known = localStorage.getItem(DEVICE);
  if (known) return known;
  const made = crypto.randomUUID().slice(0, 12);
  localStorage.setItem(DEVICE, made);
  return made;
}

/** Local time with this device's own offset, as events carry it. */
export function localMoment(now = new Date()): string {
  const offset = -now.getTimezoneOffset();
  const two = (value: number) => String(Math.floor(Math.abs(value))).padStart(2, "0");
  const local = new Date(now.getTime() + offset * 60_000).toISOString().slice(0, 19);
  return `${local}${offset < 0 ? "-" : "+"}${two(offset / 60)}:${two(offset % 60)}`;
}

/** A new event of this device; `lamport` must be above every one that it has seen of the run. */
export async function makeEvent([kind, body]: Happening, lamport: number): Promise<RunEvent> {
  const made = { id: crypto.randomUUID(), kind, at: localMoment(), lamport, device: device(), sequence: await nextSequence(), body };
  // Kind and body belong together as they came; the compiler forgets that once they are apart.
  return made as RunEvent;
}
