import { describe, expect, it } from "vitest";
import { mayReload } from "../src/app/newVersion";
import { AMOUNT_KINDS, amountEvent } from "../src/views/make/run/amountEvent";
import { happeningWords, lastReversible } from "../src/views/make/run/eventWords";
import type { Run } from "../src/views/make/run/useBench";
import { asked, sized, waysOf } from "../src/views/make/start/startWays";
import { linkTo } from "../src/views/sums/link";
import { ownSums } from "../src/views/sums/ownSums";
import { lacking, type Sum } from "../src/views/sums/useSum";

const ask = (name: string, more = {}) => ({ name, label: name.toUpperCase(), usual: null, optional: false, ...more });

describe("what a sum lacks", () => {
  const sum = { asks: [ask("volume"), ask("want"), ask("rule", { optional: true }), ask("drop", { usual: 0.05 })] } as unknown as Sum;
  it("is what has no usual figure, is not optional, and was not typed", () => {
    expect(lacking(sum, {})).toEqual(["VOLUME", "WANT"]);
    expect(lacking(sum, { volume: "60", want: "  " })).toEqual(["WANT"]);
    expect(lacking(sum, { volume: "60", want: "1.5" })).toEqual([]);
  });
});

describe("the link of a sum", () => {
  it("carries what was typed, whatever it is, and nothing that is empty", () => {
    const link = new URL(linkTo({ name: "acid_dose", figures: { volume: "60 & more", want: "", of: "größer" } }));
    expect(link.pathname).toBe("/shift");
    expect([...link.searchParams]).toEqual([
      ["sum", "acid_dose"],
      ["s.volume", "60 & more"],
      ["s.of", "größer"],
    ]);
  });
});

describe("what went in, as an event", () => {
  const line = (actual_g: number | null) => ({ id: "juice", actual_g, planned_g: { value: 900, low: 890, high: 910 } });
  const run = (...kinds: string[]) =>
    ({
      events: kinds.map((kind, n) => ({ id: `e${n}`, kind, body: { line: "juice" } })),
      state: { passed_over: [] },
    }) as unknown as Run;
  type Line = Parameters<typeof amountEvent>[1];
  it("says what was planned, and replaces nothing the first time", () => {
    expect(amountEvent(run("noted"), line(null) as Line, "weighed", 912)).toEqual([
      "weighed",
      { line: "juice", mass_g: 912, planned_g: 900 },
    ]);
  });
  it.each(AMOUNT_KINDS)("replaces knowingly what was %s before, the newest of them", (kind) => {
    const [, body] = amountEvent(run("weighed", kind, "noted", "taken_from"), line(900) as Line, "dosed", 20, 0.04);
    expect(body).toMatchObject({ drops: 20, drop_ml: 0.04, replaces: "e1" });
  });
});

describe("an event in words", () => {
  const line = { id: "juice", name: "Sea buckthorn juice" };
  const without = (passed_over: readonly string[], ...events: unknown[]) =>
    ({ code: "R0007", events, state: { passed_over, steps: [{ id: "s1", title: "Pour", lines: [line] }] } }) as unknown as Run;
  const run = (...events: unknown[]) => without([], ...events);
  const weighed = { id: "e1", kind: "weighed", body: { line: "juice", mass_g: 500 } };
  const read = { id: "e2", kind: "read", body: { property: "brix_reading", value: 41 } };
  const undone = (id: string, of: string) => ({ id, kind: "undone", body: { of } });

  it("names the line and the step as the batch does, and the batch", () => {
    expect(happeningWords(run(), ["weighed", { line: "juice", mass_g: 500 }])).toBe("500\u00a0g of Sea buckthorn juice (R0007)");
    expect(happeningWords(run(), ["step_done", { step: "s1" }])).toBe("“Pour” done (R0007)");
    expect(happeningWords(run(), ["step_done", { step: "new" }])).toBe("“a step” done (R0007)");
    expect(happeningWords(run(), ["read", { property: "acid_g_100ml", burette: { naoh_ml: 1, sample_ml: 5, normality: 0.1 } }])).toBe(
      "a titration (R0007)",
    );
  });
  it("is taken back newest first, and what was taken back already is passed over", () => {
    expect(lastReversible(run({ id: "e0", kind: "started" }))).toBeNull();
    expect(lastReversible(run(weighed, read))).toEqual({ id: "e2", words: "the reading of 41.0\u00a0°Bx" });
    const back = undone("e3", "e2");
    expect(lastReversible(without(["e2", "e3"], weighed, read, back))).toEqual({ id: "e1", words: "500\u00a0g sea buckthorn juice" });
    expect(lastReversible(without(["e1", "e3"], weighed, undone("e3", "e1")))).toBeNull();
  });
});

describe("the size of a batch", () => {
  it("is what the spec says until another is asked for; a weight is asked of what sets the batch, by name", () => {
    expect(waysOf("Quince juice").map((way) => way.value)).toEqual(["spec", "weight", "yield", "times"]);
    expect(waysOf("").map((way) => way.value)).not.toContain("weight");
    expect(asked("spec", "Quince juice")).toBeNull();
    expect(asked("weight", "Quince juice")).toMatchObject({ field: "mass_g", label: "What the scale shows of quince juice" });
  });

  it("is sent under the name of its way, and what is no number is told", () => {
    expect(sized(null, "")).toEqual({ size: {} });
    expect(sized(asked("times", ""), "1,5")).toEqual({ size: { factor: 1.5 } });
    expect(sized(asked("yield", ""), "much")).toEqual({ fault: "“much” is no number. Write figures, such as 1340." });
    expect(sized(asked("yield", ""), "")).toEqual({ fault: "Type a figure, such as 2." });
  });
});

it("the list of sums begins with those that somebody used, then those typed on this device, each once", () => {
  const sums = ["a", "b", "c"].map((name) => ({ name }));
  expect(ownSums(sums, ["c", "gone", "c"], ["a", "c"]).map((item) => item.name)).toEqual(["c", "a"]);
});

it("a page of an earlier build is loaded anew once, and not for ever", () => {
  const kept = new Map<string, string>();
  const store = { getItem: (key: string) => kept.get(key) ?? null, setItem: (key: string, text: string) => void kept.set(key, text) };
  expect([mayReload(100_000, store), mayReload(101_000, store), mayReload(130_000, store)]).toEqual([true, false, true]);
});
