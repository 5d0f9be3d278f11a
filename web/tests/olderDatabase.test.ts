// @vitest-environment node
import { openDB } from "idb";
import { expect, it, vi } from "vitest";
import { waiting } from "../src/sync/queue";

const RUN = "9b1c";

it("takes over what waited before actions were signed, and names nobody for it", async () => {
  const old = await openDB("ulsek", 2, {
    upgrade: (db) => {
      db.createObjectStore("events", { keyPath: "order", autoIncrement: true }).createIndex("run", "run");
      db.createObjectStore("runs", { keyPath: "id" });
    },
  });
  await old.add("events", {
    run: RUN,
    event: {
      id: "e1",
      kind: "weighed",
      at: "2026-11-28T10:00:00+01:00",
      lamport: 4,
      device: "d",
      sequence: 9,
      body: { line: "juice", mass_g: 500 },
    },
  });
  old.close();
  const [item] = await waiting();
  expect(item).toMatchObject({ id: "e1", subject: RUN, person: 0, key: "", signature: "", what: "weighed", state: "waiting" });
  expect(JSON.parse(item?.text ?? "")).toMatchObject({ format: "ulsek.action", id: "e1", body: { lamport: 4, body: { mass_g: 500 } } });
});

it("keeps what waits when drafts come to be kept as well", async () => {
  vi.resetModules();
  indexedDB.deleteDatabase("ulsek");
  const old = await openDB("ulsek", 3, {
    upgrade: (db) => {
      const actions = db.createObjectStore("actions", { keyPath: "order", autoIncrement: true });
      for (const name of ["state", "subject", "id"]) actions.createIndex(name, name);
      db.createObjectStore("keys", { keyPath: "id" });
      db.createObjectStore("values", { keyPath: "name" });
      db.createObjectStore("runs", { keyPath: "id" });
    },
  });
  await old.add("actions", { id: "e1", subject: RUN, state: "waiting", what: "weighed" });
  old.close();
  const { waiting: now } = await import("../src/sync/queue");
  const { keepDraft, keptDraft } = await import("../src/sync/drafts");
  await keepDraft("7.spec", { revision: 3 } as never);
  expect([(await now()).map((item) => item.id), await keptDraft("7.spec")]).toEqual([["e1"], { revision: 3 }]);
});
