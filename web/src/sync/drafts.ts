/** The drafts that this device knows as the site last had them, so that their workbenches open without the network. */

import type { Schemas } from "../api/client";
import { database } from "./database";

const MOST_DRAFTS = 12;

/** Keeps a draft under its person and spec; the ones not looked at for longest make room. What is typed and not saved yet is in the journal. */
export async function keepDraft(id: string, draft: Schemas["DraftOut"]): Promise<void> {
  const transaction = (await database()).transaction("drafts", "readwrite");
  const others = (await transaction.store.getAll()).filter((item) => item.id !== id).sort((one, other) => one.turn - other.turn);
  await transaction.store.put({ id, draft, turn: (others.at(-1)?.turn ?? 0) + 1 });
  for (const { id: oldest } of others.slice(0, Math.max(0, others.length + 1 - MOST_DRAFTS))) await transaction.store.delete(oldest);
  await transaction.done;
}

export async function keptDraft(id: string): Promise<Schemas["DraftOut"] | undefined> {
  return (await (await database()).get("drafts", id))?.draft;
}

/** Forgets every draft and the house's bundle: whoever was here has signed out. */
export async function forgetDrafts(): Promise<void> {
  const db = await database();
  await db.clear("drafts");
  await db.delete("values", "bundle");
}
