import { beforeEach, describe, expect, it } from "vitest";
import type { SpecFile } from "../src/api/client";
import { forget, keep, kept } from "../src/sync/journal";
import {
  addLine,
  addStep,
  changeVerb,
  moveStep,
  removeLine,
  setGoal,
  setServedIn,
  setVessel,
  steps,
} from "../src/views/specs/workbench/body";

const body: SpecFile = {
  format: "ulsek.spec",
  version: 1,
  name: "x",
  vessels: [{ id: "pot" }],
  steps: [
    { id: "s1", verb: "combine", vessel: "pot", lines: [] },
    { id: "s2", verb: "bottle", vessel: "pot" },
  ],
};

describe("changes to a draft", () => {
  it("say which drink it is for only when its dose and its size are both there", () => {
    const half = setServedIn({ dose_ml: "30", drink_ml: " " }, undefined)(body);
    expect(half).not.toHaveProperty("served_in");
    const said = setServedIn({ dose_ml: "30", drink_ml: "180" }, false)(half);
    expect(said.served_in).toEqual({ dose_ml: "30", drink_ml: "180", alcoholic: false });
    expect(setServedIn({ dose_ml: "", drink_ml: "180" }, false)(said)).not.toHaveProperty("served_in");
  });

  it("take a vessel's figure away when it is emptied, and leave the other vessels alone", () => {
    const two = { ...body, vessels: [{ id: "pot" }, { id: "siphon" }] };
    const lined = setVessel("siphon", "fill_line_ml", "500")(two);
    expect(lined.vessels).toEqual([{ id: "pot" }, { id: "siphon", fill_line_ml: "500" }]);
    expect(setVessel("siphon", "fill_line_ml", "")(lined).vessels).toEqual(two.vessels);
  });

  it("leave the body they were given alone", () => {
    const before = JSON.stringify(body);
    addLine("s1", "quince_juice")(addStep(body, null).body);
    expect(JSON.stringify(body)).toBe(before);
  });

  it("put a new step before the bottle, and after the chosen one", () => {
    expect(steps(addStep(body, null).body).map((step) => step.verb)).toEqual(["combine", "combine", "bottle"]);
    expect(steps(addStep(body, "s2").body).map((step) => step.verb)).toEqual(["combine", "combine", "bottle"]);
  });

  it("let the first line set the batch and measure the next against it", () => {
    const first = addLine("s1", "quince_juice")(body);
    expect(first.driver).toBe("juice");
    const second = addLine("s1", "white_sugar")(first);
    expect(steps(second)[0]?.lines?.[1]?.amount).toMatchObject({ kind: "ratio", to: { line: "juice" } });
    expect(removeLine("juice")(second).driver).toBeUndefined();
  });

  it("keep the lines when a verb takes them, and drop them when it does not", () => {
    const filled = addLine("s1", "quince_juice")(body);
    const figure = { kind: "number" as const, name: "minutes", label: "for", unit: "min", words: "", usual: 20 };
    const range = { value: 0.75, low: 0.4, high: 1.2 };
    const prior = { kind: "range" as const, name: "hold_g_g", label: "holds", unit: "g/g", usual: range };
    const verb = { family: "extract", family_word: "Extract", about: "", check: "", gear: [] };
    const steep = { ...verb, verb: "steep", word: "Steep", takes_lines: true, params: [figure, prior] };
    const steeping = steps(changeVerb("s1", steep)(filled))[0];
    expect(steeping?.lines).toHaveLength(1);
    expect(steeping).toMatchObject({ verb: "steep", minutes: 20 });
    expect(steeping).not.toHaveProperty("hold_g_g");
    const strain = { ...verb, verb: "strain", word: "Strain", takes_lines: false, params: [] };
    expect(steps(changeVerb("s1", strain)(filled))[0]?.lines).toBeUndefined();
  });

  it("move steps within their list only", () => {
    expect(steps(moveStep("s1", 1)(body)).map((step) => step.id)).toEqual(["s2", "s1"]);
    expect(moveStep("s1", -1)(body)).toBe(body);
  });

  it("take a goal away when it is wiped", () => {
    const aimed = setGoal("brix", "40", 0.5)(body);
    expect(aimed.goals).toEqual([{ property: "brix", value: "40", tolerance: 0.5 }]);
    expect(setGoal("brix", " ", 0.5)(aimed).goals).toEqual([]);
  });
});

describe("the journal", () => {
  beforeEach(() => localStorage.clear());
  it("keeps the newest body until it is forgotten, and shrugs at rubbish", () => {
    keep("s", { body, revision: 3, at: 1 });
    expect(kept<SpecFile>("s")?.revision).toBe(3);
    forget("s");
    expect(kept("s")).toBeNull();
    localStorage.setItem("ulsek.draft.s", "{half");
    expect(kept("s")).toBeNull();
  });
});
