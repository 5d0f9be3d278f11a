import { describe, expect, it } from "vitest";
import type { Schemas } from "../src/api/client";
import { fateBody, fateOf, isAnswered, outside } from "../src/views/make/sheets/fates";

const left = (over: Partial<Schemas["Leftover"]>) =>
  ({
    key: "vessel:jug",
    name: "gooseberry juice, in the jug",
    stands: "vessel",
    mass_g: 400,
    expected_g: { value: 400, low: 280, high: 520 },
    ...over,
  }) as Schemas["Leftover"];

const JUG = { key: "vessel:jug", called: "gooseberry juice, in the jug", usual: "lot" } as const;

describe("what is left over at the finish", () => {
  it("becomes what the core says that it usually does, until somebody says otherwise", () => {
    expect(fateBody(left({}), JUG, fateOf(left({}), JUG, {}))).toEqual({
      name: "gooseberry juice, in the jug",
      key: "vessel:jug",
      to: "lot",
      mass_g: 400,
    });
    const pulp = left({ key: "by_product:quince_pulp", name: "quince pulp", stands: "by_product" });
    const asked = { key: "by_product:quince_pulp", called: "quince_pulp", usual: "bin" } as const;
    const bin = { name: "quince_pulp", key: "by_product:quince_pulp", to: "bin", reason: "not needed" };
    expect(fateBody(pulp, asked, fateOf(pulp, asked, {}))).toEqual(bin);
  });

  it("asks where the rest is when it weighs far from what was worked out", () => {
    const fate = { ...fateOf(left({}), JUG, {}), mass: "150,5" };
    expect(isAnswered(left({}), fate)).toBe(false);
    const told = { ...fate, rest: " spilled " };
    expect(isAnswered(left({}), told)).toBe(true);
    expect(fateBody(left({}), JUG, told)).toMatchObject({ mass_g: 150.5, rest: "spilled" });
  });

  it("is not answered by a bin without a reason, nor by no figure", () => {
    const fate = fateOf(left({}), JUG, {});
    expect(isAnswered(left({}), { ...fate, to: "bin", reason: "  " })).toBe(false);
    expect(isAnswered(left({}), { ...fate, mass: "some" })).toBe(false);
  });
});

describe("an amount against what may be without a question", () => {
  it("is below, within or above; nothing is asked where nothing was worked out", () => {
    const expected = { value: 1000, low: 950, high: 1050 };
    expect([949, 950, 1050, 1051].map((value) => outside(value, expected))).toEqual([-1, 0, 0, 1]);
    expect([outside(null, expected), outside(10, null)]).toEqual([0, 0]);
  });
});
