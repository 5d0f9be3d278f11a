// @vitest-environment node
import { beforeEach, describe, expect, it, vi } from "vitest";
import { client, type Schemas } from "../src/api/client";
import { away } from "../src/api/reach";
import * as core from "../src/sync/core";
import { eventOf, waiting } from "../src/sync/queue";
import { RunDesk } from "../src/sync/runDesk";
import { keepRun } from "../src/sync/runs";
import { does, emptied, RUN, site, sitsDown } from "./device";

// The core itself is a worker of a browser: the stories there have it.
vi.mock("../src/sync/core", () => ({ isCoreReady: vi.fn(() => false), foldHere: vi.fn() }));

beforeEach(emptied);

describe("the desk of a run", () => {
  const run = (lamport: number, ...ids: string[]) =>
    ({
      id: RUN,
      lamport,
      finished_at: null,
      events: ids.map((id) => ({ id, kind: "noted", body: { text: id } })),
      state: { steps: [], passed_over: [] },
    }) as unknown as Schemas["RunOut"];

  it("asks once more where an answer was on its way while something was sent", async () => {
    await sitsDown(7, "Jonas");
    const { sender } = site();
    const desk = new RunDesk(RUN, sender);
    await does("clear");
    const [action] = await waiting();
    await sender.once();
    const asked: string[] = [];
    const get = vi.spyOn(client, "GET").mockImplementation((async (path: string) => {
      asked.push(path);
      return path.endsWith("/offline")
        ? { error: {}, response: new Response(null, { status: 404 }) }
        : { data: run(1, action?.id ?? ""), response: new Response() };
    }) as never);
    const runs = () => asked.filter((path) => path === "/api/runs/{run_id}").length;
    await desk.answered(run(0));
    expect(desk.now().run?.events.map((event) => event.id)).toEqual([action?.id]);
    expect(runs()).toBe(1);
    await desk.answered(run(0));
    expect(runs(), "once for each thing that was sent").toBe(1);
    get.mockRestore();
  });

  it("shows what was done here although the core starts between its sending and the site's answer", async () => {
    await sitsDown(7, "Jonas");
    const { sender } = site();
    const desk = new RunDesk(RUN, sender);
    await keepRun(run(0), { core: "1", materials: {} } as never);
    await desk.record([["noted", { text: "clear" }]], () => "clear");
    const [action] = await waiting();
    expect(desk.now().settling).toBe(true);
    await sender.once();
    const get = vi.spyOn(client, "GET").mockResolvedValue({ data: run(1, action?.id ?? ""), response: new Response() } as never);
    await desk.warmed();
    expect(desk.now().run?.events.map((event) => event.id)).toEqual([action?.id]);
    get.mockRestore();
  });

  it("counts on from the run that is kept here where the page was loaded anew", async () => {
    await sitsDown(7, "Jonas");
    await keepRun(run(7), { core: "1", materials: {} } as never);
    const desk = new RunDesk(RUN, site().sender);
    desk.start();
    away();
    await vi.waitFor(() => expect(desk.now().run).not.toBeNull());
    await desk.record([["noted", { text: "clear" }]], () => "clear");
    const [action] = await waiting();
    expect(action && eventOf(action).lamport).toBe(8);
    desk.stop();
  });

  it("works out what was done as soon as it holds what folds, also where that comes after the core", async () => {
    await sitsDown(7, "Jonas");
    const desk = new RunDesk(RUN, site().sender);
    const state = { steps: [], passed_over: ["folded here"] };
    let arrives: (answer: unknown) => void = () => undefined;
    const offline = new Promise((given) => {
      arrives = given;
    });
    const get = vi.spyOn(client, "GET").mockReturnValue(offline as never);
    await desk.answered(run(0));
    await desk.record([["noted", { text: "clear" }]], () => "clear");
    vi.mocked(core.isCoreReady).mockReturnValue(true);
    vi.mocked(core.foldHere).mockResolvedValue(state as never);
    await desk.warmed();
    expect(desk.now()).toMatchObject({ settling: true });
    arrives({ data: { core: "1", materials: {} }, response: new Response() });
    await vi.waitFor(() => expect(desk.now()).toMatchObject({ settling: false, run: { state } }));
    vi.mocked(core.isCoreReady).mockReturnValue(false);
    get.mockRestore();
  });

  it("does not take an older answer for that of what is only being signed", async () => {
    await sitsDown(7, "Jonas");
    const desk = new RunDesk(RUN, site().sender);
    await keepRun(run(0), { core: "1", materials: {} } as never);
    await desk.answered(run(0));
    const kept = desk.record([["noted", { text: "clear" }]], () => "clear");
    await Promise.all([kept, desk.answered(run(0))]);
    expect(desk.now().settling).toBe(true);
  });
});
