import { describe, expect, it } from "vitest";
import { drawGauge } from "../src/gauge/layout";
import { typed } from "../src/parts/numbers";
import { type AtHand, actionOf, actionWords, atHand, beingPoured } from "../src/views/make/bench/atHand";
import { runKeys } from "../src/views/make/bench/runKeys";
import { massOf, nowOf, withPoured } from "../src/views/make/run/now";
import type { Run } from "../src/views/make/run/useBench";

const none = { sugar: 0, acid: 0, solids: 0, spirit: 0, water: 0 };
const line = (id: string, actual: number | null) => ({
  id,
  material: id,
  name: id,
  planned_g: { value: 100, low: 100, high: 100 },
  actual_g: actual,
  ahead: true,
});
const step = (id: string, state: string, lines: object[]) => ({ id, state, vessel: "pot", title: id, lines });
const flow = (id: string, bands: object, added: object[] = []) => ({ id, vessel: "pot", bands, added });

const state = (over: object = {}) =>
  ({
    current: { step: "b", line: "sugar" },
    steps: [step("a", "done", [line("juice", 900)]), step("b", "now", [line("acid", 5), line("sugar", null)]), step("c", "later", [])],
    evaluation: {
      steps: [
        flow("a", { ...none, water: 900 }),
        flow("b", { ...none, water: 900, sugar: 105 }, [
          { line: "acid", bands: { ...none, acid: 5 } },
          { line: "sugar", bands: { ...none, sugar: 100 } },
        ]),
      ],
    },
    ...over,
  }) as unknown as Parameters<typeof nowOf>[0];

describe("what the bench shows of a run", () => {
  it("is the step and line at hand, and the vessel as far as it is filled", () => {
    const now = nowOf(state());
    expect([now.number, now.step?.id, now.line?.id, now.next?.id]).toEqual([2, "b", "sugar", "c"]);
    expect(now.bands).toEqual({ ...none, water: 900, acid: 5 });
    expect(massOf(now.bands)).toBe(905);
  });

  it("is the finished vessel once every step is done", () => {
    const now = nowOf(state({ current: { step: null, line: null } }));
    expect([now.step, now.line, now.next]).toEqual([null, null, null]);
    expect(now.bands.sugar).toBe(105);
  });

  it("fills by what is poured, in the colours of what it is", () => {
    const half = withPoured({ ...none, water: 900 }, { ...none, sugar: 100 }, 0.5);
    expect(half).toEqual({ ...none, water: 900, sugar: 50 });
    const drawn = drawGauge({ bands: half, target: 1000, tolerance: 10, top: 0, bottom: 400 });
    expect(drawn.mass).toBe(950);
    expect(drawn.level).toBeGreaterThan(drawn.line ?? 0);
    const over = drawGauge({ bands: withPoured(half, { ...none, sugar: 100 }, 1), target: 1000, tolerance: 10, top: 0, bottom: 400 });
    expect(over.level).toBeLessThan(over.line ?? 0);
  });
});

describe("what is typed", () => {
  it.each([
    ["733", 733],
    ["1 340", 1340],
    ["1,5", 1.5],
    ["-3", -3],
    [".5", 0.5],
  ])("%s is a number", (text, value) => expect(typed(text)).toBe(value));
  it.each(["", "much", "1.2.3", "12 g", "1e3", "--4"])("“%s” is none", (text) => expect(typed(text)).toBeNull());
});

describe("the one button of the bench", () => {
  const hand = { line: null, waits: false, begun: null, last: false, next: { title: "Strain, no pressing" } } as unknown as AtHand;

  it("weighs while a line is open, starts a clock that does not run, ends with the last step, else goes on", () => {
    const open = { ...hand, line: line("sugar", null) } as unknown as AtHand;
    expect([actionOf(open, true), actionOf(open, false)]).toEqual(["take", "type"]);
    expect(actionOf({ ...hand, waits: true }, false)).toBe("begin");
    expect(actionOf({ ...hand, waits: true, begun: "2026-11-25T10:00:00Z" }, false)).toBe("done");
    expect(actionOf({ ...hand, last: true }, false)).toBe("finish");
    expect([
      actionWords(open, "Take 12.0 g"),
      actionWords(open, null),
      actionWords(hand, null),
      actionWords({ ...hand, next: null }, null),
    ]).toEqual(["Take 12.0 g", "Type the weight", "Next: strain", "Next"]);
  });

  it("stands on what is at hand: a step waits once all of it is in, and what is poured shows in the vessel", () => {
    const of = (over: object) =>
      ({
        state: { ...state(), deviations: [], readings: [], repairs: [], watch: null, ...over },
        vessels: [{ id: "pot" }],
      }) as unknown as Run;
    const open = atHand(of({}));
    expect([open.waits, open.planned, open.mass, open.vessel?.id]).toEqual([false, 100, 905, "pot"]);
    expect(beingPoured(of({}), open, 50).sugar).toBe(50);
    expect(beingPoured(of({}), open, -3).sugar).toBe(0);
    const filled = of({
      current: { step: "b", line: null },
      steps: [step("a", "done", []), { ...step("b", "now", []), minutes: 20, begun_at: "t" }],
      watch: { charted: true },
      deviations: [
        { quiet: true, text: "small" },
        { quiet: false, text: "over" },
      ],
      repairs: [
        { id: "r1", state: "put off" },
        { id: "r2", state: "open" },
      ],
      repair_at_hand: "r2",
    });
    expect(atHand(filled)).toMatchObject({
      waits: true,
      begun: "t",
      last: true,
      watched: { charted: true },
      told: { text: "over" },
      repair: { id: "r2" },
      putOff: { id: "r1" },
    });
    expect(atHand(of({ watch: { charted: true } })).watched).toBeNull();
  });

  it("has keys for whoever makes, and those that need a line open nothing without one", () => {
    const opened: string[] = [];
    const given = {
      mayMake: true,
      mayType: false,
      mayDraw: false,
      words: "Next",
      act: () => void opened.push("act"),
      tare: () => undefined,
      open: (sheet: string | null) => void opened.push(String(sheet)),
    };
    expect(runKeys({ ...given, mayMake: false })).toEqual([]);
    for (const item of runKeys(given)) item.does();
    expect(opened).toEqual(["act", "act", "taste", "more", "reading", "ahead", "hand", "wrong", "story"]);
    opened.length = 0;
    for (const item of runKeys({ ...given, mayType: true, mayDraw: true })) if ("ef".includes(item.key)) item.does();
    expect(opened).toEqual(["weigh", "supply"]);
  });
});
