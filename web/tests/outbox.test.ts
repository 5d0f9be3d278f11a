import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it } from "vitest";
import type { Schemas } from "../src/api/client";
import { drop, forgetRuns, keepAlone, keepRun, keptRun, makeEvent, put, waiting } from "../src/offline/outbox";

const run = (id: string, lamport = 0) => ({ id, lamport, events: [] }) as unknown as Schemas["RunOut"];
const pinned = { core: "1", spec: {}, materials: {}, rules: {}, learned: {} } as Schemas["OfflineOut"];
let count = 0;
const another = () => `run-${++count}`;

describe("the outbox", () => {
  beforeEach(() => localStorage.clear());

  it("gives back what was put, in order, for its own run alone, until it is dropped", async () => {
    const [mine, other] = [another(), another()];
    const events = [1, 2, 3].map((lamport) => makeEvent("noted", { text: String(lamport) }, lamport));
    await put(mine, events);
    await put(other, [makeEvent("noted", { text: "elsewhere" }, 1)]);
    const found = await waiting(mine);
    expect(found.map((item) => item.event)).toEqual(events);
    await drop(found.slice(0, 1));
    expect((await waiting(mine)).map((item) => item.event.lamport)).toEqual([2, 3]);
    expect(await waiting(other)).toHaveLength(1);
  });

  it("numbers the events of this device, and never twice the same", () => {
    const events = Array.from({ length: 50 }, (_, n) => makeEvent("noted", { text: "x" }, n));
    expect(new Set(events.map((event) => event.id)).size).toBe(50);
    expect(events.map((event) => event.sequence)).toEqual(Array.from({ length: 50 }, (_, n) => n + 1));
    expect(new Set(events.map((event) => event.device)).size).toBe(1);
    expect(events[0]?.at).toMatch(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d[+-]\d\d:\d\d$/);
  });
});

describe("the runs that this device knows", () => {
  it("keeps what a run pinned, however often the run itself is kept anew", async () => {
    const id = another();
    await keepRun(run(id, 1), pinned);
    await keepRun(run(id, 2), null);
    expect(await keptRun(id)).toMatchObject({ pinned, run: { lamport: 2 } });
    await keepAlone(run(id, 5));
    expect(await keptRun(id)).toMatchObject({ alone: { lamport: 5 }, run: { lamport: 2 } });
  });

  it("works nothing out for a run that it does not know", async () => {
    await keepAlone(run("never-seen"));
    expect(await keptRun("never-seen")).toBeUndefined();
  });

  it("forgets them at a sign-out, but those of which something still waits", async () => {
    const [done, unsent] = [another(), another()];
    await keepRun(run(done), pinned);
    await keepRun(run(unsent), pinned);
    await put(unsent, [makeEvent("noted", { text: "not sent yet" }, 1)]);
    await forgetRuns();
    expect(await keptRun(done)).toBeUndefined();
    expect(await keptRun(unsent)).toBeDefined();
  });

  it("makes room for the newest, and never at the cost of what waits", async () => {
    const unsent = another();
    await keepRun(run(unsent), pinned);
    await put(unsent, [makeEvent("noted", { text: "x" }, 1)]);
    const many = Array.from({ length: 30 }, another);
    for (const id of many) await keepRun(run(id), pinned);
    expect(await keptRun(unsent)).toBeDefined();
    const left = (await Promise.all(many.map((id) => keptRun(id)))).map(Boolean);
    expect(left.slice(-10).every(Boolean)).toBe(true);
    expect(left.slice(0, 15).some(Boolean)).toBe(false);
  });
});
