/** The queue of signed actions: kept here first, signed as they are made, until the site has them or their person has seen why not. */

import { canonical } from "./bytes";
import { type Actor, announce, database, type QueuedAction, value } from "./database";
import type { RunEvent } from "./event";
import { dropKey, keptKeys, sign } from "./keys";

export const RUN_EVENT = "run_event";
const KEPT_DAYS = 30;
/** An action of whoever is at this device, signed. */
async function signed(actor: Actor, run: string, event: RunEvent, what: string): Promise<Omit<QueuedAction, "order">> {
  const { id, at } = event;
  const named = { house: actor.house, person: actor.person, by: actor.name, key: actor.key || undefined };
  const text = canonical({ format: "ulsek.action", version: 1, id, kind: RUN_EVENT, subject: run, at, what, ...named, body: event });
  const signature = actor.key ? await sign(actor.key, text) : "";
  if (actor.key && !signature) throw new NobodyHere();
  const shown = { id, kind: RUN_EVENT, subject: run, text, signature, key: actor.key, person: actor.person, by: actor.name, what };
  return { ...shown, at: Date.parse(at), state: "waiting" };
}

/** Whoever did this has left the device before it was signed. */
export class NobodyHere extends Error {
  constructor() {
    super("Nobody is at this device. Sign in, and do it again.");
  }
}

let last: Promise<unknown> = Promise.resolve();

/** Signs events of a run for whoever is at this device and keeps them, all or none. Throws NobodyHere, or what the browser says where it has no room. */
export function enqueue(run: string, events: readonly { event: RunEvent; what: string }[]): Promise<void> {
  // One after the other: what was done first stands first, however long a signature takes.
  const mine = last.then(async () => {
    const actor = await value("actor");
    if (!actor) throw new NobodyHere();
    const made = await Promise.all(events.map(({ event, what }) => signed(actor, run, event, what)));
    const transaction = (await database()).transaction("actions", "readwrite");
    for (const item of made) await transaction.store.add(item);
    await transaction.done;
    announce("queue");
  });
  last = mine.catch(() => undefined);
  return mine;
}

const inOrder = (items: readonly (Omit<QueuedAction, "order"> & { order?: number })[]): QueuedAction[] =>
  items.flatMap((item) => (item.order === undefined ? [] : [{ ...item, order: item.order }])).sort((one, other) => one.order - other.order);

/** Everything that waits to be sent, in the order in which it was done. */
export const waiting = async (): Promise<QueuedAction[]> =>
  inOrder(await (await database()).getAllFromIndex("actions", "state", "waiting"));

/** Everything that the site refused and nobody has decided about. */
export const refused = async (): Promise<QueuedAction[]> =>
  inOrder(await (await database()).getAllFromIndex("actions", "state", "refused"));

/** What was done in a run here and waits to be sent. */
export async function waitingIn(run: string): Promise<QueuedAction[]> {
  return inOrder(await (await database()).getAllFromIndex("actions", "subject", run)).filter((item) => item.state === "waiting");
}

/** What was done in a run here and has been at the site since `since` [ms]. */
export async function sentIn(run: string, since: number): Promise<QueuedAction[]> {
  return inOrder(await (await database()).getAllFromIndex("actions", "subject", run)).filter(
    (item) => item.state === "done" && (item.doneAt ?? 0) >= since,
  );
}

export const eventOf = (action: QueuedAction): RunEvent => (JSON.parse(action.text) as { body: RunEvent }).body;

/** Notes what became of actions, in one transaction. */
export async function settle(actions: readonly QueuedAction[]): Promise<void> {
  const transaction = (await database()).transaction("actions", "readwrite");
  for (const item of actions) await transaction.store.put(item);
  await transaction.done;
  announce("queue");
}

/** An action leaves the device: the site has written down what becomes of it. */
export async function dismiss(action: QueuedAction): Promise<void> {
  await (await database()).delete("actions", action.order);
  announce("queue");
}

/** What the site had is sent again: it was put back to an earlier moment. */
export async function sendAgain(): Promise<number> {
  const transaction = (await database()).transaction("actions", "readwrite");
  const done = [...(await transaction.store.index("state").getAll("done")), ...(await transaction.store.index("state").getAll("held"))];
  for (const item of done) await transaction.store.put({ ...item, state: "waiting" });
  await transaction.done;
  if (done.length) announce("queue");
  return done.length;
}

/** Deletes what the site has had for thirty days. */
export async function prune(now = Date.now()): Promise<void> {
  const transaction = (await database()).transaction("actions", "readwrite");
  for (const state of ["done", "held"] as const) {
    for (const item of await transaction.store.index("state").getAll(state)) {
      if (item.order !== undefined && (item.doneAt ?? 0) < now - KEPT_DAYS * 86_400_000) await transaction.store.delete(item.order);
    }
  }
  await transaction.done;
  await pruneKeys();
}

/** Forgets keys that sign no more and of which nothing is kept here. */
async function pruneKeys(): Promise<void> {
  const db = await database();
  const used = new Set((await db.getAll("actions")).map((item) => item.key));
  for (const key of await keptKeys()) if (!key.private && !used.has(key.id)) await dropKey(key.id);
}
