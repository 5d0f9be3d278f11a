/** A device with its own store and a site that answers as a test says. */

import { vi } from "vitest";
import { Problem, type Schemas } from "../src/api/client";
import { back } from "../src/api/reach";
import { database, keepValue } from "../src/sync/database";
import { makeEvent } from "../src/sync/event";
import { keepKey, makeKey } from "../src/sync/keys";
import { enqueue } from "../src/sync/queue";
import { type Line, Sender } from "../src/sync/sender";

const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, text: string) => kept.set(key, text),
});

export const RUN = "9b1c";
export type Carry = (body: Schemas["SignedActionsIn"]) => Promise<Schemas["CarriedOut"]>;
export const done = (id = ""): Schemas["CarriedAnswer"] => ({ id, outcome: "done", status: 200, code: "", detail: "", where: "" });
export const no = (status: number, code = "x"): Schemas["CarriedAnswer"] => ({
  ...done(),
  outcome: "refused",
  status,
  code,
  detail: `no ${status}`,
});

/** A site whose answers are what the test says, and what it was sent. */
export function site(carry: Carry = async ({ actions }) => ({ epoch: "one", answers: actions.map(() => done()), view: null })) {
  const sent: Schemas["SignedActionsIn"][] = [];
  const line: Line = {
    endFirst: async () => undefined,
    freshPage: async () => undefined,
    registerKey: async () => undefined,
    claim: async () => Promise.reject(new Problem(403, "That is not the PIN. 4 tries left.", "", "wrong_pin")),
    sync: async () => ({ epoch: "one", has_last: true, held: 0 }),
    carry: async (body) => {
      sent.push(body);
      return carry(body);
    },
  };
  return { sender: new Sender(line), line, sent };
}

/** Somebody is at this device, with a key of theirs. */
export async function sitsDown(person: number, name: string, claimed = false) {
  const key = await makeKey({ person, signIn: claimed ? "" : `session-${person}` });
  if (!claimed) await keepKey({ ...key, certificate: `certificate-${person}` });
  await keepValue("actor", { person, name, role: "maker", house: 3, signIn: key.signIn, key: key.id, claimed, since: 0 });
  return key;
}

export const does = async (text: string, run = RUN) => enqueue(run, [{ event: await makeEvent(["noted", { text }], 1), what: text }]);

/** As a browser that was never used. */
export async function emptied() {
  const db = await database();
  for (const store of ["actions", "keys", "values", "runs"] as const) await db.clear(store);
  back();
}
