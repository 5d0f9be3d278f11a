/** What this device keeps in IndexedDB: signed actions, the keys that sign them, the runs and drafts it knows, and a few values. Every tab is told of changes. */

import { type DBSchema, type IDBPDatabase, openDB, unwrap, wrap } from "idb";
import type { Schemas } from "../api/client";
import { canonical } from "./bytes";

/** Not sent yet; refused, until its person says what becomes of it; with the site; with the site, where a lead decides. */
type ActionState = "waiting" | "refused" | "done" | "held";

/** Why the site refused an action: the status that a request of its own would have had, and the words. */
interface Refusal {
  status: number;
  code: string;
  detail: string;
}

/** One thing that a person did on this device. `text` is exactly what was signed; `person` is 0 for what was done before actions were signed. */
export interface QueuedAction {
  order: number;
  id: string;
  kind: string;
  subject: string;
  text: string;
  signature: string;
  key: string;
  person: number;
  by: string;
  what: string;
  /** When it was done [ms since 1970]. */
  at: number;
  state: ActionState;
  refusal?: Refusal;
  /** When the site had it [ms since 1970]. */
  doneAt?: number;
}

/** A key pair of one session. The private half cannot leave the browser, and goes when its person does. */
export interface KeptKey {
  id: string;
  public: string;
  private?: CryptoKey;
  person: number;
  signIn: string;
  certificate: string;
  /** Set for a switch without the network: the PIN that was typed, sealed for the site, and whether it was found wrong. */
  claim?: { sealed: string; wrong?: string };
}

/** Who is at this device. `claimed`: they took over without the network, and their PIN has not been checked yet. */
export interface Actor {
  person: number;
  name: string;
  role: string;
  house: number;
  signIn: string;
  /** The key that signs for them; empty where the browser has none to give. */
  key: string;
  claimed: boolean;
  /** Since when [ms since 1970]. */
  since: number;
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

/** A draft as the site last had it, of one person on this device. */
interface KeptDraft {
  /** The person and the spec. */
  id: string;
  draft: Schemas["DraftOut"];
  /** The turn at which it was last kept. */
  turn: number;
}

export interface Values {
  sequence: number;
  epoch: string;
  /** The last action that the site said it has. */
  last: string;
  actor: Actor;
  /** The last session that the site answered here, for a switch without the network. */
  here: Schemas["Session"];
  /** Somebody signed out here, and the site has not heard of it yet. */
  ending: boolean;
  /** Nobody is to be let in by what is kept: whoever was here has signed out. */
  closed: boolean;
  /** What the core here needs to evaluate the house's drafts. */
  bundle: { tag: string; body: Schemas["HouseBundle"] };
}

interface Shape extends DBSchema {
  actions: {
    key: number;
    value: Omit<QueuedAction, "order"> & { order?: number };
    indexes: { state: string; subject: string; id: string };
  };
  keys: { key: string; value: KeptKey };
  runs: { key: string; value: KeptRun };
  drafts: { key: string; value: KeptDraft };
  values: { key: string; value: { name: string; value: unknown } };
}

interface Before {
  order: number;
  run: string;
  event: Schemas["EventIn"];
}

/** What waited before actions were signed: it names nobody, and a lead decides. */
const unsigned = ({ order, run, event }: Before): QueuedAction => ({
  order,
  id: event.id,
  kind: "run_event",
  subject: run,
  text: canonical({ format: "ulsek.action", version: 1, id: event.id, kind: "run_event", subject: run, at: event.at, body: event }),
  signature: "",
  key: "",
  person: 0,
  by: "",
  what: event.kind.replaceAll("_", " "),
  at: Date.parse(event.at),
  state: "waiting",
});

let opened: Promise<IDBPDatabase<Shape>> | null = null;

export function database(): Promise<IDBPDatabase<Shape>> {
  opened ??= openDB<Shape>("ulsek", 4, {
    upgrade: async (db, from, _to, transaction) => {
      db.createObjectStore("drafts", { keyPath: "id" });
      if (from === 3) return;
      const actions = db.createObjectStore("actions", { keyPath: "order", autoIncrement: true });
      actions.createIndex("state", "state");
      actions.createIndex("subject", "subject");
      actions.createIndex("id", "id", { unique: true });
      db.createObjectStore("keys", { keyPath: "id" });
      db.createObjectStore("values", { keyPath: "name" });
      if (from < 2) db.createObjectStore("runs", { keyPath: "id" });
      if (from < 1) return;
      // A store of the form before, which the present one does not know.
      const old: Before[] = await wrap(unwrap(transaction).objectStore("events").getAll());
      for (const item of old) await actions.add(unsigned(item));
      unwrap(db).deleteObjectStore("events");
    },
    // Another tab brings a newer build: this one gives way, and opens again when it is next asked.
    blocking: () => {
      void opened?.then((db) => db.close());
      opened = null;
    },
    terminated: () => {
      opened = null;
    },
  });
  return opened;
}

const tabs = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("ulsek.sync");
const heard = new Set<(news: News) => void>();
/** The queue changed; or who is at this device did. */
export type News = "queue" | "who";

tabs?.addEventListener("message", ({ data }: MessageEvent<News>) => {
  for (const tell of heard) tell(data);
});

/** Tells this tab and all others. */
export function announce(news: News): void {
  for (const tell of heard) tell(news);
  tabs?.postMessage(news);
}

export function onNews(tell: (news: News) => void): () => void {
  heard.add(tell);
  return () => heard.delete(tell);
}

export async function value<K extends keyof Values>(name: K): Promise<Values[K] | undefined> {
  return (await (await database()).get("values", name))?.value as Values[K] | undefined;
}

export async function keepValue<K extends keyof Values>(name: K, kept: Values[K]): Promise<void> {
  await (await database()).put("values", { name, value: kept });
}

export async function forgetValue(name: keyof Values): Promise<void> {
  await (await database()).delete("values", name);
}

/** The next number of this device's own events. Two tabs never get the same. */
export async function nextSequence(): Promise<number> {
  const transaction = (await database()).transaction("values", "readwrite");
  const before = Number((await transaction.store.get("sequence"))?.value ?? localStorage.getItem("ulsek.sequence") ?? 0);
  await transaction.store.put({ name: "sequence", value: before + 1 });
  await transaction.done;
  return before + 1;
}
