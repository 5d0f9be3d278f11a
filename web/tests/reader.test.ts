import { describe, expect, it } from "vitest";
import type { Schemas, SpecFile } from "../src/api/client";
import { materialsOf } from "../src/views/specs/ownMaterials";
import { inDrafts, toTake } from "../src/views/specs/reader/many";
import { isLeft, type Phrase, pieces } from "../src/views/specs/reader/marks";
import { allLines, mayStand, takeAsTheyStand } from "../src/views/specs/workbench/body";

describe("a text in pieces", () => {
  const TEXT = "Stir in 5 g salt, then wave at the neighbours.";
  const PHRASES: Phrase[] = [
    { start: 0, end: 16, kind: "step", at: "s1" },
    { start: 8, end: 16, kind: "line", at: "salt" },
  ];

  it("gives all of the text, each piece to the innermost phrase and to its step", () => {
    const found = pieces(TEXT, PHRASES);
    expect(found.map((piece) => piece.text).join("")).toBe(TEXT);
    expect(found.map((piece) => [piece.text, piece.phrase?.at, piece.step])).toEqual([
      ["Stir in ", "s1", "s1"],
      ["5 g salt", "salt", "s1"],
      [", ", undefined, ""],
      ["then wave at the neighbours.", undefined, ""],
    ]);
  });

  it("says what no step took, and not a lone joining word", () => {
    expect(pieces(TEXT, PHRASES).map(isLeft)).toEqual([false, false, false, true]);
    expect(pieces("A. And b.", [{ start: 0, end: 2, kind: "step", at: "s1" }]).some(isLeft)).toBe(false);
  });

  it("keeps within the text", () => {
    expect(pieces("ab", [{ start: 1, end: 9, kind: "note", at: "" }]).map((piece) => piece.text)).toEqual(["a", "b"]);
  });
});

describe("assumed amounts", () => {
  const line = (id: string, assumed: boolean) => ({
    id,
    material: id,
    amount: { kind: "fixed", mass_g: 10, ...(assumed && { assumed: true }) },
  });
  const BODY = {
    format: "ulsek.spec",
    steps: [
      { id: "s1", verb: "combine", lines: [line("zest", true), line("sugar", false)] },
      { id: "s2", verb: "combine", lines: [line("mint", true)] },
    ],
    doubts: [
      { at: "zest", code: "imprecise", question: "how much?" },
      { at: "mint", code: "imprecise", question: "how much?" },
      { at: "zest", code: "unknown_material", question: "which?" },
    ],
  } as unknown as SpecFile;

  it("may stand but for those that stop publishing", () => expect(mayStand(BODY, ["mint"])).toEqual(["zest"]));

  it("are written once they are taken, and only their amounts are asked no more", () => {
    const taken = takeAsTheyStand(["zest"])(BODY);
    expect(allLines(taken).map((each) => [each.id, (each.amount as { assumed?: boolean }).assumed])).toEqual([
      ["zest", undefined],
      ["sugar", undefined],
      ["mint", true],
    ]);
    expect(taken.doubts?.map((doubt) => `${doubt.at} ${doubt.code}`)).toEqual(["mint imprecise", "zest unknown_material"]);
    expect(allLines(BODY).map((each) => (each.amount as { assumed?: boolean }).assumed)).toEqual([true, undefined, true]);
  });
});

describe("several recipes of one text", () => {
  const named = (name: string) => ({ name }) as SpecFile;

  it("are taken but for those left out, taken before, or without a name", () =>
    expect(toTake(["A", "B", " ", "D"].map(named), [0], { 1: "an-id" })).toEqual([3]));

  it("are named by the first three that ask", () => {
    expect(inDrafts(["A", "B"])).toBe("in A, B");
    expect(inDrafts(["A", "B", "C", "D", "E"])).toBe("in A, B, C and 2 more");
  });
});

describe("materials of a draft that are new here", () => {
  const draft = { materials: { gum: { name: "Gum" }, selva: { name: "Selva", taken_as: "a liqueur" } } } as unknown as SpecFile;
  const read = (kind: string, keys: string[]) =>
    ({ kind, new_materials: keys.map((key) => ({ key, name: key })) }) as unknown as Schemas["Understood"];

  it("are those of its file that the house does not have", () =>
    expect(materialsOf(read("spec file", ["gum", "lost"]), draft)).toEqual({ gum: { name: "Gum" } }));

  it("are those of a text that somebody has said what they are", () =>
    expect(materialsOf(read("recipe text", []), draft)).toEqual({ gum: { name: "Gum" } }));
});
