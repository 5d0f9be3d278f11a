// @vitest-environment node
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { client, Problem, type Schemas, type SpecFile } from "../src/api/client";
import { away, back } from "../src/api/reach";
import { database } from "../src/sync/database";
import { type Core, DraftDesk } from "../src/sync/draftDesk";
import { difference, type PlainFlow, type Workbench, withPlain } from "../src/sync/workbench";

function storage() {
  const kept = new Map<string, string>();
  return {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => void kept.set(key, text),
    removeItem: (key: string) => void kept.delete(key),
  };
}

const SAME = { core: "c1", bundle: "b1" };
const body = (name: string): SpecFile => ({ format: "ulsek.spec", version: 1, name, vessels: [], steps: [] });
const exact = (value: number, half = 0) => ({ value, low: value - half, high: value + half });
/** An answer of which only one step's mass and a sentence are told apart. */
const answer = (name: string, grams: number, half = 0, by_others: Schemas["Remark"][] = []) =>
  ({
    steps: [{ id: "s1", mass_g: exact(grams, half), brix: exact(10), bands: {}, added: [], leaving: [] }],
    words: { steps: { s1: name }, lines: {}, beside: {}, names: {} },
    final: { mass_g: exact(grams, half), brix: exact(10, 1), keeps_days: 9 },
    remarks: [],
    by_others,
    knobs: [],
  }) as unknown as Workbench;
const plain = (name: string, grams: number) => ({ ...answer(name, grams), product: "s1" }) as PlainFlow;
const draft = (name: string, revision: number) =>
  ({
    body: body(name),
    revision,
    result: answer(name, 100),
    basis: SAME,
    made_with_it: ["own"],
    pins: [],
    beside: [],
    saved_at: "t",
    saved_by: "Ilse",
  }) as unknown as Schemas["DraftOut"];
const renamed = (name: string) => (now: SpecFile) => ({ ...now, name });

/** A core that answers what the test says, and how it was asked. */
function coreOf(grams: (name: string) => number, here = true) {
  const asked: string[] = [];
  const core: Core & { here: boolean; basis: Schemas["Basis"]; hold: Promise<void> } = {
    here,
    basis: SAME,
    hold: Promise.resolve(),
    answersHere: () => core.here,
    basisHere: () => core.basis,
    follow: async () => undefined,
    draftHere: async ({ name = "" }, madeWithIt, tell) => {
      asked.push(`${name} ${madeWithIt}`);
      tell(plain(name, grams(name)));
      await core.hold;
      return answer(name, grams(name), 5);
    },
  };
  return { core, asked };
}

/** The site, which has every draft that it is sent; `answers` is what it makes of one. */
function siteOf(answers: (name: string) => Workbench, basis = SAME) {
  const sent: { spec: { name: string }; differed: string; revision: string }[] = [];
  let revision = 1;
  vi.spyOn(client, "PUT").mockImplementation((async (_path: string, { params, body: put }: never) => {
    const { spec, differed } = put as { spec: { name: string }; differed: string };
    sent.push({ spec, differed, revision: (params as { header: Record<string, string> }).header["If-Match"] ?? "" });
    revision += 1;
    const data = { revision, beside: [], saved_at: "later", basis, made_with_it: ["own"], result: answers(spec.name) };
    return { data, response: new Response() };
  }) as never);
  return sent;
}

async function deskOf(core: Core, known = draft("First", 1)) {
  const desk = new DraftDesk("spec", "7.spec", core);
  desk.start();
  await desk.answered(known);
  return desk;
}
const shown = (desk: DraftDesk) => desk.now()?.result.words.steps.s1;
const rest = () => vi.waitFor(() => expect(desks.at(-1)?.now()?.save.status).toBe("saved"), { timeout: 3000, interval: 10 });
const desks: DraftDesk[] = [];
const opened = async (core: Core, known?: Schemas["DraftOut"]) => {
  const desk = await deskOf(core, known);
  desks.push(desk);
  return desk;
};

beforeEach(async () => {
  vi.stubGlobal("localStorage", storage());
  vi.stubGlobal("sessionStorage", storage());
  await (await database()).clear("drafts");
  back();
});
afterEach(() => {
  for (const desk of desks.splice(0)) desk.stop();
  vi.restoreAllMocks();
});

describe("an edit", () => {
  it("is worked out here first, its flow before all else, and saved once the hand rests", async () => {
    const { core, asked } = coreOf(() => 120);
    const sent = siteOf((name) => answer(name, 120, 5, [{ code: "far_from_usual" } as Schemas["Remark"]]));
    let done = () => undefined as undefined;
    core.hold = new Promise((resolve) => {
      done = () => void resolve();
    });
    const desk = await opened(core);
    desk.edit(renamed("Second"));
    await vi.waitFor(() => expect(shown(desk)).toBe("Second"));
    expect(desk.now()).toMatchObject({ pending: true, result: { final: { mass_g: { value: 120 }, keeps_days: 9 } } });
    desk.edit(renamed("Third"));
    done();
    await vi.waitFor(() => expect(desk.now()).toMatchObject({ pending: false, result: { steps: [{ mass_g: exact(120, 5) }] } }));
    expect(sent).toEqual([]);
    await rest();
    expect(sent).toMatchObject([{ spec: { name: "Third" }, differed: "", revision: '"1"' }]);
    expect(desk.now()?.result.by_others).toHaveLength(1);
    expect(asked).toEqual(["Second own", "Third own"]);
  });

  it("stands as the site says where the core here said otherwise, and the next save says where", async () => {
    vi.spyOn(console, "error").mockImplementation(() => undefined);
    const { core } = coreOf(() => 120);
    const sent = siteOf((name) => answer(name, 130, 5));
    const desk = await opened(core);
    desk.edit(renamed("Second"));
    await rest();
    expect(desk.now()?.result.steps[0]?.mass_g.value).toBe(130);
    desk.edit(renamed("Third"));
    await vi.waitFor(() => expect(sent).toHaveLength(2), { timeout: 2000 });
    expect(sent[1]?.differed).toBe("steps/0/mass_g/value: 120 here, 130 there");
  });

  it("is no difference where the house has changed since the core here had its bundle", async () => {
    const { core } = coreOf(() => 120);
    siteOf((name) => answer(name, 130), { core: "c1", bundle: "b2" });
    const desk = await opened(core);
    desk.edit(renamed("Second"));
    await rest();
    expect(shown(desk)).toBe("Second");
    expect(desk.now()?.result.steps[0]?.mass_g.value).toBe(130);
  });

  it("is sent at once where the core here does not answer as the site would", async () => {
    const { core, asked } = coreOf(() => 120, false);
    const sent = siteOf((name) => answer(name, 130));
    const desk = await opened(core);
    desk.edit(renamed("Second"));
    expect(sent).toHaveLength(1);
    desk.edit(renamed("Third"));
    await vi.waitFor(() => expect(sent.map((item) => item.spec.name)).toEqual(["Second", "Third"]));
    expect(asked).toEqual([]);
  });

  it("goes back by undo, and what is only tried is never saved", async () => {
    const { core } = coreOf(() => 120);
    const sent = siteOf((name) => answer(name, 120, 5));
    const desk = await opened(core);
    await desk.tries(body("Tried"));
    expect(desk.now()?.tried?.words.steps.s1).toBe("Tried");
    await desk.tries(null);
    desk.edit(renamed("Second"));
    desk.undo();
    await rest();
    expect([desk.now()?.tried, desk.now()?.body.name, sent.map((item) => item.spec.name)]).toEqual([null, "First", ["First"]]);
  });
});

describe("without the network", () => {
  const gone = () => vi.spyOn(client, "PUT").mockRejectedValue(new TypeError("Failed to fetch"));

  it("is worked out here, stands after a reload with its undo, and is saved from the revision it was written from", async () => {
    const { core } = coreOf((name) => name.length);
    gone();
    away();
    const desk = await opened(core);
    for (const name of ["Second", "Third"]) desk.edit(renamed(name));
    await vi.waitFor(
      () => expect(desk.now()).toMatchObject({ pending: false, save: { status: "kept" }, result: { steps: [{ mass_g: { value: 5 } }] } }),
      {
        timeout: 2000,
      },
    );
    desk.stop();
    const again = await opened({ ...core, answersHere: () => false });
    expect(again.now()).toMatchObject({ body: { name: "Third" }, pending: true });
    const warm = await opened(core);
    warm.warmed();
    await vi.waitFor(() => expect(shown(warm)).toBe("Third"));
    warm.undo();
    expect(warm.now()?.body.name).toBe("Second");
    const sent = siteOf((name) => answer(name, name.length, 5));
    back();
    await vi.waitFor(() => expect(warm.now()?.save.status).toBe("saved"), { timeout: 3000 });
    expect(sent.at(-1)).toMatchObject({ spec: { name: "Second" }, revision: '"1"', differed: "" });
  });

  it("opens what this device knows where that is newer, or where nobody answers", async () => {
    siteOf((name) => answer(name, 120, 5));
    const desk = await opened(coreOf(() => 120).core);
    desk.edit(renamed("Second"));
    await rest();
    await vi.waitFor(async () => expect((await (await database()).get("drafts", "7.spec"))?.draft.revision).toBe(2));
    const late = await opened(coreOf(() => 120).core, draft("From before", 1));
    expect(late.now()?.body.name).toBe("Second");
    const alone = new DraftDesk("spec", "7.spec", coreOf(() => 120).core);
    expect([await alone.unanswered(), alone.now()?.known.revision]).toEqual([true, 2]);
    expect(await new DraftDesk("other", "7.other", coreOf(() => 120).core).unanswered()).toBe(false);
  });
});

it("a conflict stops the desk, in the site's words", async () => {
  const desk = await opened(coreOf(() => 120).core);
  vi.spyOn(client, "PUT").mockRejectedValue(new Problem(412, "Ilse saved this draft.", "", "conflict"));
  desk.edit(renamed("Second"));
  await vi.waitFor(() => expect(desk.now()?.save).toEqual({ status: "conflict", text: "Ilse saved this draft." }), { timeout: 2000 });
  desk.edit(renamed("Third"));
  expect(desk.now()?.body.name).toBe("Second");
});

describe("two answers", () => {
  it("differ where a digit, a word or a member does, and not in the noise of rounding", () => {
    expect(difference({ a: [1, { b: 0.1 + 0.2 }] }, { a: [1, { b: 0.3 }] })).toBeNull();
    expect(difference({ a: [1, { b: 1.000001 }] }, { a: [1, { b: 1 }] })).toBe("a/1/b: 1.000001 here, 1 there");
    expect(difference({ a: "x" }, { a: "y" })).toBe('a: "x" here, "y" there');
    expect(difference({}, { a: null })).toBe("a: undefined here, null there");
  });

  it("become one: new figures with the ranges that stood around the old ones, and no product where none is made", () => {
    const before = answer("One", 100, 5);
    const now = withPlain(before, plain("Two", 110));
    expect([now.steps[0]?.mass_g, now.final?.brix, now.words.steps.s1]).toEqual([exact(110, 5), exact(10, 1), "Two"]);
    expect(withPlain(before, { ...plain("Two", 0), product: null }).final).toBeNull();
  });
});
