import { describe, expect, it } from "vitest";
import { isWithin, onScale, takes } from "../src/views/make/bench/onScale";
import { spoken } from "../src/views/make/bench/spoken";
import { type Finish, finishBody, finishState, leftOver } from "../src/views/make/sheets/finish";
import { readBody, readingsInOrder, refusedWeight } from "../src/views/make/sheets/reading";
import { byCode, inAlready, type Line, type Supply, standsAt, suppliesFor, takenEvent, takenWords } from "../src/views/make/sheets/supply";

const plain = (text: string | undefined) => text?.replace(/\s/g, " ");

describe("the finish", () => {
  type State = Parameters<typeof finishState>[0];
  const state = (over: object = {}): State =>
    ({
      asked_at_finish: [{ key: "pulp", called: "quince_pulp", usual: "bin" }],
      deviations: [
        { line: "a", text: "3 % more acid", quiet: false },
        { line: "b", text: "a gram", quiet: true },
      ],
      off_spec: "",
      expected_ml: { value: 1400, low: 1330, high: 1470 },
      evaluation: { leftovers: [{ key: "pulp", mass_g: 90, expected_g: null }, { key: "other" }], final: { volume_ml: { value: 1400 } } },
      ...over,
    }) as unknown as State;
  const given: Finish = { volume: "1400", rest: "", place: "shelf", signed: false, filled: [2], fates: {} };

  it("is recorded with what is left over, which the site asked about and nothing else", () => {
    expect(leftOver(state()).map(({ item }) => item.key)).toEqual(["pulp"]);
    expect(finishBody(state(), given, false)).toEqual({
      volume_ml: 1400,
      place: "shelf",
      signed: false,
      by_products: [{ name: "quince_pulp", key: "pulp", to: "bin", reason: "not needed" }],
      containers: [2],
    });
  });

  it("asks where the rest is when far less came out, and waits for the answer", () => {
    const less = { ...given, volume: "1000" };
    const asked = finishState(state(), less, false);
    expect([asked.off, asked.ready]).toEqual([-1, false]);
    expect(plain(asked.offWords)).toBe("400 mL less than the 1 400 mL that were worked out.");
    const told = { ...less, rest: " spilled " };
    expect(finishState(state(), told, false).ready).toBe(true);
    expect(finishBody(state(), told, false)).toMatchObject({ rest: "spilled" });
  });

  it("waits for a signature under what is off its spec, and says what was told only", () => {
    const off = state({ off_spec: "42.1 °Bx instead of 41" });
    expect(finishState(off, given, false).ready).toBe(false);
    expect(finishState(off, { ...given, signed: true }, false).ready).toBe(true);
    expect(finishState(off, given, false).odd.map((item) => item.text)).toEqual(["3 % more acid"]);
  });

  it("is not recorded without a figure; a rehearsal is asked nothing else", () => {
    expect(finishBody(state(), { ...given, volume: "much" }, false)).toBeNull();
    expect(finishState(state(), { ...given, volume: "much" }, false).fault).toContain("1430");
    expect(finishState(state({ off_spec: "off" }), { ...given, volume: "1000" }, true)).toMatchObject({ ready: true, off: 0 });
  });
});

describe("a reading", () => {
  it("is offered first where the step is watched by it, the others after it", () => {
    const all = readingsInOrder().map((item) => item.kind.property);
    const watched = readingsInOrder(["mass_g"]);
    expect(watched[0]).toMatchObject({ first: true, kind: { property: "mass_g" } });
    expect(watched.map((item) => item.kind.property).sort()).toEqual([...all].sort());
  });

  it("belongs to the step only while that is watched by it", () => {
    expect(readBody("mass_g", { value: 900 }, ["mass_g"], "s2")).toEqual({ property: "mass_g", value: 900, step: "s2" });
    expect(readBody("ph", { value: 3.1 }, ["mass_g"], "s2")).toEqual({ property: "ph", value: 3.1 });
    expect(readBody("mass_g", { value: 900 }, ["mass_g"], null)).not.toHaveProperty("step");
  });

  it("of a weight is refused where it is no more than its container", () => {
    const pot = { name: "heavy pot", tare_g: 1240 };
    expect(plain(refusedWeight(1240, pot) ?? "")).toBe("heavy pot weighs 1 240 g empty: this is no more.");
    expect([refusedWeight(1241, pot), refusedWeight(3, undefined)]).toEqual([null, null]);
  });
});

describe("what a line comes out of", () => {
  const line = { id: "l1", material: "sugar~caster", supply: null, parts: [] } as unknown as Line;
  const crate = (over: object): Supply =>
    ({ supply: "stock-1", code: "D12", material: "sugar", about: "Meridian", left_g: 900, makes_ml: null, warning: "", ...over }) as Supply;
  const run = { supplies: { "sugar~caster": "stock-1" } };

  it("is what was named for it, else what the run pinned, of its own material only", () => {
    const all = [crate({}), crate({ supply: "stock-2", code: "D13", left_g: -20 }), crate({ material: "salt", supply: "stock-9" })];
    expect(suppliesFor(line, all)).toHaveLength(2);
    expect(plain(takenWords(run, line, all)?.words)).toBe("From D12, Meridian · 900 g left");
    const named = { ...line, supply: "stock-2" } as Line;
    expect(takenWords(run, named, all)).toMatchObject({ odd: true, words: expect.stringContaining("D13") });
    expect(takenWords({ supplies: {} }, line, all)?.words).toBe("From nothing in Stores");
    expect(takenWords(run, { ...line, material: "gum" } as Line, all)).toBeNull();
  });

  it("says what is in already out of those that ran empty", () => {
    const went = { ...line, parts: [{ material: "sugar~caster", mass_g: 300 }], supply: "stock-2" } as unknown as Line;
    const words = takenWords(run, went, [crate({}), crate({ supply: "stock-2", code: "D13" })])?.words;
    expect(plain(words)).toMatch(/^300 g from D12, the rest from D13/);
  });

  it.each([
    [{ left_g: 900, makes_ml: null }, "900 g left"],
    [{ left_g: 900, makes_ml: 3900 }, "900 g left, makes 3.9 L"],
    [{ left_g: 900, makes_ml: 16_200 }, "900 g left, makes 16 L"],
    [{ left_g: -40, makes_ml: 100 }, "40 g short"],
  ])("says what is left: %o", (over, words) => expect(plain(standsAt(over))).toBe(words));

  it("is recorded from the start, or from so much on; no mass is refused at its field", () => {
    expect(inAlready("")).toEqual({ mass: null, fault: undefined });
    expect(inAlready("250,5")).toEqual({ mass: 250.5, fault: undefined });
    for (const text of ["0", "-3", "some"]) expect(inAlready(text)).toMatchObject({ mass: null, fault: expect.any(String) });
    expect(takenEvent("l1", "stock-2", null)).toEqual(["taken_from", { line: "l1", supply: "stock-2" }]);
    expect(takenEvent("l1", "stock-2", 250)).toEqual(["went_on", { line: "l1", mass_g: 250, supply: "stock-2" }]);
  });

  it("is found by its code, typed or out of the address on its label", () => {
    for (const code of ["d12", " D12 ", "http://127.0.0.1:8713/stores/D12"]) expect(byCode([crate({})], code)?.code).toBe("D12");
    expect(byCode([crate({})], "D99")).toBeUndefined();
  });
});

describe("the bench's scale", () => {
  const shown = (value: number | null, over: object = {}) => ({ state: "live", value, steady: true, ...over });
  const line = (so_far_g: number | null = null) => ({ so_far_g }) as Parameters<typeof onScale>[1];

  it("gives what stands on it once it is steady, and more than nothing", () => {
    expect(onScale(shown(480.04), line())).toMatchObject({ value: 480.04, taken: takes(480.04), behind: 0 });
    expect(onScale(shown(480, { steady: false }), line()).taken).toBeNull();
    expect(onScale(shown(0), line()).taken).toBeNull();
  });

  it("weighs nothing without a line, after a loss, above its range, or below zero", () => {
    for (const [what, of] of [
      [shown(480), null],
      [shown(480, { state: "lost" }), line()],
      [shown(null), line()],
      [shown(-900), line()],
    ] as const) {
      expect(onScale(what, of)).toMatchObject({ value: null, taken: null });
    }
  });

  it("goes on from what is in, and takes nothing while it shows less than that", () => {
    expect(onScale(shown(20), line(300))).toMatchObject({ value: 300, behind: 300, taken: null });
    expect(onScale(shown(310), line(300))).toMatchObject({ value: 310, behind: 0, taken: takes(310) });
    expect(onScale(null, line(300)).value).toBe(300);
  });

  it("is within the tolerance of a line that has a planned mass", () => {
    const planned = { planned_g: { value: 100, low: 100, high: 100 }, tolerance_g: 2 } as Parameters<typeof isWithin>[1];
    expect([isWithin(98, planned), isWithin(97.9, planned), isWithin(null, planned), isWithin(98, null)]).toEqual([
      true,
      false,
      false,
      false,
    ]);
  });
});

describe("what a screen reader hears of a batch", () => {
  type Hand = Parameters<typeof spoken>[0];
  const step = { title: "Steep allspice 35 min" };
  const hand = (over: object) =>
    ({ step, line: null, number: 2, planned: null, waits: false, begun: null, last: false, volume: 0, ...over }) as unknown as Hand;

  it.each([
    [{ line: { name: "White sugar" }, planned: 831 }, "Step 2 of 7. White sugar, 831 grams. Steep allspice 35 min."],
    [{ waits: true }, "Step 2 of 7. Steep allspice 35 min. The clock is not started yet."],
    [{ waits: true, begun: "2026-11-28T20:00:00Z" }, "Step 2 of 7. Steep allspice 35 min. The clock runs."],
    [{ last: true, volume: 1482 }, "Step 2 of 7. Steep allspice 35 min. 1.48 litres expected."],
    [{ step: null }, "Every step is done."],
  ])("%o", (over, words) => expect(plain(spoken(hand(over), 7))).toBe(words));
});
