import { describe, expect, it } from "vitest";
import type { Run } from "../src/views/make/useBench";
import { WENT_IN, weighedEvent } from "../src/views/make/WeighSheets";
import { linkTo } from "../src/views/sums/link";
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
    ({ events: kinds.map((kind, n) => ({ id: `e${n}`, kind, body: { line: "juice" } })) }) as unknown as Run;
  type Line = Parameters<typeof weighedEvent>[1];
  it("says what was planned, and replaces nothing the first time", () => {
    expect(weighedEvent(run("noted"), line(null) as Line, "weighed", "mass_g", 912)).toEqual([
      "weighed",
      { line: "juice", mass_g: 912, planned_g: 900 },
    ]);
  });
  it.each(WENT_IN)("replaces knowingly what was %s before, the newest of them", (kind) => {
    const [, body] = weighedEvent(run("weighed", kind, "noted", "taken_from"), line(900) as Line, "dosed", "drops", 20);
    expect(body).toMatchObject({ drops: 20, replaces: "e1" });
  });
});
