import { describe, expect, it } from "vitest";
import type { SpecFile, SpecStep } from "../src/api/client";
import {
  addAlternative,
  changeLine,
  changeOption,
  insertStep,
  joinNext,
  mayJoin,
  settleDoubt,
  settleOption,
  shownSteps,
  splitStep,
  steps,
} from "../src/views/specs/body";
import { withTurned } from "../src/views/specs/WhatIf";
import { knobs } from "../src/views/specs/whatIf";

const line = (id: string, amount: Record<string, unknown> = { kind: "fixed", mass_g: 10 }) => ({ id, material: id, amount });
const BODY = {
  format: "ulsek.spec",
  version: 1,
  name: "Quince",
  driver: "juice",
  vessels: [{ id: "pot" }],
  steps: [
    {
      id: "s1",
      verb: "combine",
      vessel: "pot",
      lines: [line("juice"), line("sugar", { kind: "ratio", to: { line: "juice" }, ratio: 0.6 })],
    },
    {
      id: "s2",
      verb: "combine",
      vessel: "pot",
      note: "rain it in",
      lines: [line("acid", { kind: "target", property: "acid_g_100ml", value: 2.6 })],
    },
    { id: "s3", verb: "steep", vessel: "pot", minutes: 20, lines: [line("spice", { kind: "percent", percent: 0.4 })] },
    { id: "s4", verb: "bottle", vessel: "pot" },
  ],
} as unknown as SpecFile;

const ids = (body: SpecFile) => steps(body).map((step) => step.id);
const linesOf = (body: SpecFile, id: string) =>
  steps(body)
    .find((step) => step.id === id)
    ?.lines?.map((item) => item.id);

describe("steps of a draft", () => {
  it("takes a typed step in after the chosen one, its lines under ids of their own", () => {
    const typed = { verb: "steep", note: "steep spice 9 g", lines: [line("spice")] } as unknown as Partial<SpecStep>;
    const made = insertStep(BODY, "s1", typed);
    expect(ids(made.body)).toEqual(["s1", made.id, "s2", "s3", "s4"]);
    expect(linesOf(made.body, made.id)).toHaveLength(1);
    expect(linesOf(made.body, made.id)).not.toEqual(["spice"]);
    expect(made.body.driver).toBe("juice");
  });

  it("lets the first typed line set the batch where nothing does", () => {
    const { driver: _none, ...open } = BODY;
    const made = insertStep(open as SpecFile, null, { verb: "combine", lines: [line("honey")] } as unknown as Partial<SpecStep>);
    expect(made.body.driver).toBe("honey");
    expect(ids(made.body).at(-1)).toBe("s4");
  });

  it("splits the last line off and joins it back", () => {
    const split = splitStep("s1")(BODY);
    expect(split.steps).toHaveLength(5);
    expect([linesOf(split, "s1"), steps(split)[1]?.lines?.[0]?.id]).toEqual([["juice"], "sugar"]);
    expect(linesOf(joinNext("s1")(split), "s1")).toEqual(["juice", "sugar"]);
    expect(splitStep("s3")(BODY)).toBe(BODY);
  });

  it("joins only what is done alike in one vessel, and loses no word", () => {
    expect(mayJoin(steps(BODY)[1], steps(BODY)[2])).toBe(false);
    expect(joinNext("s2")(BODY)).toBe(BODY);
    const joined = joinNext("s1")(BODY);
    expect(linesOf(joined, "s1")).toEqual(["juice", "sugar", "acid"]);
    expect(steps(joined)[0]?.note).toBe("rain it in");
  });

  it("keeps steps that do not hold the changed line the very same", () => {
    const changed = changeLine("spice", { note: "x" })(BODY);
    expect(steps(changed)[0]).toBe(steps(BODY)[0]);
    expect(steps(changed)[2]).not.toBe(steps(BODY)[2]);
  });
});

describe("alternatives", () => {
  const two = addAlternative("s3", "The spice")(BODY);
  const group = two.options?.[0]?.id ?? "";

  it("stand beside each other, one of them shown", () => {
    expect(steps(two)).toHaveLength(5);
    expect(shownSteps(two).map((step) => step.id)).toEqual(["s1", "s2", "s3", "s4"]);
    const other = changeOption(group, (item) => ({ ...item, chosen: "other" }))(two);
    const shown = shownSteps(other).map((step) => step.id);
    expect(shown).toHaveLength(4);
    expect(shown).not.toContain("s3");
    const all = steps(two).flatMap((step) => step.lines ?? []);
    expect(new Set(all.map((item) => item.id)).size).toBe(all.length);
  });

  it("are settled into plain steps again", () => {
    const settled = settleOption(group)(changeOption(group, (item) => ({ ...item, chosen: "other" }))(two));
    expect(settled.options).toEqual([]);
    expect(steps(settled)).toHaveLength(4);
    expect(steps(settled).some((step) => step.only)).toBe(false);
  });
});

describe("doubts", () => {
  it("go one at a time, by what their remark says", () => {
    const doubts = [
      { at: "spice", text: "a handful", question: "How much?" },
      { at: "", text: "overnight", question: "How long?" },
    ];
    const first = settleDoubt("“a handful”: How much?")({ ...BODY, doubts });
    expect(first.doubts?.map((item) => item.text)).toEqual(["overnight"]);
    expect(settleDoubt("“overnight”: How long?")(first).doubts).toBeUndefined();
  });
});

describe("what if", () => {
  const found = knobs(BODY, { sugar: "White sugar" });

  it("offers the figures that decide: ratios, targets, percents, minutes", () => {
    expect(found.map((knob) => [knob.key, knob.value])).toEqual([
      ["sugar", 0.6],
      ["acid", 2.6],
      ["spice", 0.4],
      ["s3.minutes", 20],
    ]);
    for (const knob of found) {
      expect(knob.low).toBeLessThan(knob.value);
      expect(knob.high).toBeGreaterThan(knob.value);
      expect(knob.stride).toBeGreaterThan(0);
    }
  });

  it("turns them without touching the draft", () => {
    const tried = withTurned(BODY, { sugar: 0.5, "s3.minutes": 30 }, {});
    expect(steps(tried)[0]?.lines?.[1]?.amount).toMatchObject({ ratio: 0.5 });
    expect(steps(tried)[2]).toMatchObject({ minutes: 30 });
    expect(steps(BODY)[2]).toMatchObject({ minutes: 20 });
    expect(withTurned(BODY, {}, {})).toBe(BODY);
  });

  it("never reduces to more than there is", () => {
    const reduced = { ...BODY, steps: [{ id: "r", verb: "reduce", vessel: "pot", to_fraction: 0.8 }] } as unknown as SpecFile;
    expect(knobs(reduced, {})[0]?.high).toBeLessThanOrEqual(1);
  });
});
