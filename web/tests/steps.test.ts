import { describe, expect, it } from "vitest";
import type { SpecFile, SpecStep } from "../src/api/client";
import {
  addAlternative,
  changeLine,
  insertStep,
  joinNext,
  mayJoin,
  settleDoubt,
  settleOption,
  shownSteps,
  splitStep,
  steps,
} from "../src/views/specs/workbench/body";
import { type Knob, valueNow, withTurned } from "../src/views/specs/workbench/knobs";

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

  it("stand beside each other, those shown that the core counts", () => {
    expect(steps(two)).toHaveLength(5);
    const counted = { s1: "", s2: "", s3: "", s4: "" };
    expect(shownSteps(two, counted).map((step) => step.id)).toEqual(["s1", "s2", "s3", "s4"]);
    const all = steps(two).flatMap((step) => step.lines ?? []);
    expect(new Set(all.map((item) => item.id)).size).toBe(all.length);
  });

  it("are settled into plain steps again", () => {
    const copy = steps(two).find((step) => step.only === `${group}/other`)?.id ?? "";
    const settled = settleOption(group, { s1: "", s2: "", [copy]: "", s4: "" })(two);
    expect(settled.options).toEqual([]);
    expect(steps(settled).map((step) => step.id)).toEqual(["s1", "s2", copy, "s4"]);
    expect(steps(settled).some((step) => step.only)).toBe(false);
  });
});

describe("doubts", () => {
  it("go one at a time, each by its entry, though two ask the same", () => {
    const doubts = [
      { at: "spice", text: "a handful", question: "How much?" },
      { at: "sugar", text: "a handful", question: "How much?" },
    ];
    const first = settleDoubt({ ...doubts[0] })({ ...BODY, doubts });
    expect(first.doubts?.map((item) => item.at)).toEqual(["sugar"]);
    expect(settleDoubt({ ...doubts[1] })(first).doubts).toBeUndefined();
  });
});

describe("what if", () => {
  const knob = (key: string, step: string, line: string | null, field: string, value: number) =>
    ({ key, step, line, field, value, label: key, unit: "", low: 0, high: 9, stride: 1 }) satisfies Knob;
  const knobs = [knob("sugar", "s1", "sugar", "ratio", 0.6), knob("s3.minutes", "s3", null, "minutes", 20)];

  it("turns knobs without touching the draft", () => {
    const tried = withTurned(BODY, { sugar: 0.5, "s3.minutes": 30 }, knobs);
    expect(steps(tried)[0]?.lines?.[1]?.amount).toMatchObject({ kind: "ratio", ratio: 0.5 });
    expect(steps(tried)[2]).toMatchObject({ minutes: 30 });
    expect(steps(BODY)[2]).toMatchObject({ minutes: 20 });
    expect(withTurned(BODY, {}, knobs)).toBe(BODY);
  });

  it("stands where the draft stands, even before that is worked out", () => {
    const kept = withTurned(BODY, { sugar: 0.5 }, knobs);
    expect(knobs.map((item) => valueNow(kept, item))).toEqual([0.5, 20]);
    const typedIn = changeLine("sugar", { amount: { kind: "ratio", ratio: "0,45" } as never })(BODY);
    expect(knobs.map((item) => valueNow(typedIn, item))).toEqual([0.45, 20]);
  });
});
