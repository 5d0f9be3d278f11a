import { describe, expect, it } from "vitest";
import { operationsOf } from "../src/views/house/api/operations";
import { figuresOf, found, said } from "../src/views/house/rules/rules";

const JUICE = {
  key: "fresh_juice",
  words: "fresh juice",
  source: "house experience",
  dated: "",
  own: true,
  figures: [
    { name: "days", label: "keeps", unit: "d", value: 2, ships: 3 },
    { name: "at_most_c", label: "kept at most at", unit: "°C", value: 5, ships: 5 },
  ],
};
const QUININE = { ...JUICE, key: "quinine", words: "quinine", own: false };
const table = (key: string, rows: (typeof JUICE)[]) => ({ key, title: key, about: "", takes: ["authority"], rows });

describe("the rules of a house", () => {
  it("are found by any word of them, and a table without any is left out", () => {
    const tables = [table("limits", [QUININE]), table("classes", [JUICE])];
    expect(found(tables, "JUICE experience").map(({ key }) => key)).toEqual(["classes"]);
    expect(found(tables, "").length).toBe(2);
    expect(found(tables, "salt")).toEqual([]);
  });

  it("are said with their unit", () => {
    expect(JUICE.figures.map(said)).toEqual(["keeps 2\u00a0d", "kept at most at 5\u00a0°C"]);
  });

  it("are sent as far as they differ from what ships, and not at all with what is no figure", () => {
    expect(figuresOf(JUICE, {})).toEqual({ days: 2 });
    expect(figuresOf(JUICE, { days: "1,5", at_most_c: "4" })).toEqual({ days: 1.5, at_most_c: 4 });
    expect(figuresOf(JUICE, { days: "3" })).toEqual({});
    expect(figuresOf(JUICE, { days: "two" })).toBeNull();
  });
});

describe("what a script may ask", () => {
  it("stands by what it is about, with who may", () => {
    const description = {
      paths: {
        "/api/specs": {
          get: { tags: ["library"], description: "Returns the\n specs.", "x-role": "reader", "x-scripts": true },
          post: { tags: ["library"], description: "Starts a spec.", "x-role": "lead", "x-scripts": true },
        },
        "/api/people": { get: { tags: ["people"], description: "Returns the people.", "x-role": "maker", "x-scripts": false } },
      },
    };
    const parts = operationsOf(description, "").map(([part, operations]) => [
      part,
      operations.map(({ about, scripts }) => [about, scripts]),
    ]);
    expect(parts).toEqual([
      [
        "library",
        [
          ["Returns the specs.", true],
          ["Starts a spec.", true],
        ],
      ],
      ["people", [["Returns the people.", false]]],
    ]);
    expect(operationsOf(description, "post SPECS").map(([, found]) => found.map(({ method }) => method))).toEqual([["POST"]]);
    expect(operationsOf(description, "nothing")).toEqual([]);
  });
});
