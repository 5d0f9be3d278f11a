import { describe, expect, it } from "vitest";
import { asksOf, type Cut, type Gave, gaveBody, givesWords, isReadable } from "../src/views/citrus/plan/cut";
import { flowsOf, sparedWords } from "../src/views/citrus/plan/flows";

describe("a cut of a plan", () => {
  const cut = { gives: { juice: 900, zest: 58.4, wheels: 12 }, gives_range: { zest: { value: 58, low: 52, high: 64 } } } as unknown as Cut;
  const gave: Gave = { count: "40", juice_ml: "", skin_g: "55,5", skin_binned_g: "" };

  it("says what it gives, measured with its unit and skin with its range", () => {
    expect(givesWords(cut).map((words) => words.replace(/\s/g, " "))).toEqual(["900 mL juice", "58 g zest (52 to 64)", "12 wheels"]);
    expect(asksOf(cut).map((asked) => asked.label)).toEqual(["Fruits", "Juice", "Zest", "Of it thrown"]);
    expect(asksOf({ gives: { peel: 40 } } as unknown as Cut).map((asked) => asked.label)).toEqual(["Fruits", "Peel", "Of it thrown"]);
    expect(asksOf({ gives: { wheels: 12 } } as unknown as Cut)).toHaveLength(1);
  });

  it("is kept with what was measured; a word where a figure belongs keeps it back", () => {
    expect(gaveBody(gave)).toEqual({ count: 40, juice_ml: 0, skin_g: 55.5, skin_binned_g: 0 });
    expect([isReadable(gave), isReadable({ ...gave, juice_ml: "lots" })]).toEqual([true, false]);
  });
});

describe("a plan as streams", () => {
  it("runs from each case to what is wanted, to what stays over, and into the bin", () => {
    const { flows, names } = flowsOf({
      sources: [{ case: "c1", name: "Bergamot" }],
      wants: [{ key: "w1", name: "juice for the cordial" }],
      shares: [{ case: "c1", want: "w1", kind: "juice", grams: 900 }],
      over: [{ case: "c1", kind: "zest", grams: 20 }],
      bins: [{ case: "c1", grams: 300 }],
    } as unknown as Parameters<typeof flowsOf>[0]);
    expect(flows.map((flow) => [flow.from, flow.to, flow.kind, flow.grams])).toEqual([
      ["c1", "want w1", "juice", 900],
      ["c1", "over zest", "zest", 20],
      ["c1", "bin", "rest", 300],
    ]);
    for (const flow of flows) expect(names.get(flow.to)).toBeTruthy();
  });

  it("says what it spares only where each want on its own could be had and would bin more", () => {
    const money = (amount: string) => `€${amount}`;
    const naive = { short: false, bin_g: 900, fruits: 48, cost: 31 };
    const answer = (over: object, bin_g = 400) => ({ naive: { ...naive, ...over }, bin_g }) as unknown as Parameters<typeof sparedWords>[0];
    expect(sparedWords(answer({}), money)).toContain("48 fruits, €31, and bin 0.90 kg");
    expect([sparedWords(answer({ short: true }), money), sparedWords(answer({}, 900), money)]).toEqual([".", "."]);
  });
});
