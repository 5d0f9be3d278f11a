import { describe, expect, it } from "vitest";
import { drawGauge } from "../src/gauge/layout";
import { typed } from "../src/parts/numbers";
import { massOf, nowOf, withPoured } from "../src/views/make/run/now";

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
