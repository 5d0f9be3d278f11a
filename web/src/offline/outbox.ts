/** Events of runs on this device, kept in IndexedDB until the server has acknowledged them. */

import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Schemas } from "../api/client";

export type RunEvent = Schemas["EventIn"];
export interface Waiting {
  order: number;
  run: string;
  event: RunEvent;
}

/** A run as this device last knew it, and what it pinned at its start, so that it goes on without the network. */
export interface KeptRun {
  id: string;
  run: Schemas["RunOut"];
  pinned: Schemas["OfflineOut"] | null;
  /** The turn at which it was last kept. */
  turn: number;
  /** The same with everything that was done here without the network, as it was last worked out. */
  alone?: Schemas["RunOut"];
}

interface Shape extends DBSchema {
  runs: { key: string; value: KeptRun };
  events: { key: number; value: Omit<Waiting, "order"> & { order?: number }; indexes: { run: string } };
}

let opened: Promise<IDBPDatabase<Shape>> | null = null;
const database = () => {
  opened ??= openDB<Shape>("ulsek", 2, {
    upgrade: (db, from) => {
      if (from < 1) db.createObjectStore("events", { keyPath: "order", autoIncrement: true }).createIndex("run", "run");
      db.createObjectStore("runs", { keyPath: "id" });
    },
  });
  return opened;
};

const DEVICE = "ulsek.device";
const SEQUENCE = "ulsek.sequence";

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
export function makeEvent(kind: string, body: RunEvent["body"], lamport: number): RunEvent {
  const sequence = Number(localStorage.getItem(SEQUENCE) ?? "0") + 1;
  localStorage.setItem(SEQUENCE, String(sequence));
  return { id: crypto.randomUUID(), kind, at: localMoment(), lamport, device: device(), sequence, body: body ?? {} };
}

export async function put(run: string, events: readonly RunEvent[]): Promise<void> {
  const transaction = (await database()).transaction("events", "readwrite");
  for (const event of events) await transaction.store.add({ run, event });
  await transaction.done;
}

export async function waiting(run: string): Promise<Waiting[]> {
  const found = await (await database()).getAllFromIndex("events", "run", run);
  return found.flatMap((item) => (item.order === undefined ? [] : [{ order: item.order, run: item.run, event: item.event }]));
}

export async function drop(items: readonly Waiting[]): Promise<void> {
  const transaction = (await database()).transaction("events", "readwrite");
  for (const item of items) await transaction.store.delete(item.order);
  await transaction.done;
}

/** Forgets the runs that this device knows, but those of which something still waits to be sent. */
export async function forgetRuns(): Promise<void> {
  const db = await database();
  for (const key of await db.getAllKeys("runs")) if (!(await db.countFromIndex("events", "run", key))) await db.delete("runs", key);
}

const MOST_RUNS = 12;

/** Keeps a run as it is known now; the ones not looked at for longest make room. */
export async function keepRun(run: Schemas["RunOut"], pinned: Schemas["OfflineOut"] | null): Promise<void> {
  const db = await database();
  const before = await db.get("runs", run.id);
  const known = await db.getAll("runs");
  const turn = Math.max(0, ...known.map((item) => item.turn ?? 0)) + 1;
  await db.put("runs", { id: run.id, run, pinned: pinned ?? before?.pinned ?? null, turn });
  const oldest = known.filter((item) => item.id !== run.id).sort((one, other) => (one.turn ?? 0) - (other.turn ?? 0));
  for (const { id } of oldest.slice(0, Math.max(0, oldest.length + 1 - MOST_RUNS))) {
    if (!(await db.countFromIndex("events", "run", id))) await db.delete("runs", id);
  }
}

export const keptRun = async (id: string): Promise<KeptRun | undefined> => (await database()).get("runs", id);

/** Keeps what was worked out here, so that it stands at once after a reload. */
export async function keepAlone(run: Schemas["RunOut"]): Promise<void> {
  const db = await database();
  const before = await db.get("runs", run.id);
  if (before) await db.put("runs", { ...before, alone: run });
}
