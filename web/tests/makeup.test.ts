import { describe, expect, it } from "vitest";
import { bodySent, bodyTyped } from "../src/views/house/materials/body";
import { amountText, amountTyped, EMPTY, makeupSent, makeupTyped } from "../src/views/house/materials/makeup";
import { figuresTyped } from "../src/views/house/register/typed";

describe("an amount of a material", () => {
  it.each([
    ["12", 12],
    ["12,5", 12.5],
    ["12 ± 1", { value: 12, low: 11, high: 13 }],
    ["0.5 +- 1", { value: 0.5, low: 0, high: 1.5 }],
    ["12 (10 to 15)", { value: 12, low: 10, high: 15 }],
    ["12 (10–15)", { value: 12, low: 10, high: 15 }],
    ["twelve", null],
    ["12 ± -1", null],
    ["12 (ten to 15)", null],
  ])("“%s” is read", (text, read) => {
    expect(amountTyped(text)).toEqual(read);
  });

  it("is written as it is read again", () => {
    for (const amount of [3, 0.07, { value: 12, low: 11.5, high: 12.5 }, { value: 12, low: 10, high: 15 }]) {
      expect(amountTyped(amountText(amount))).toEqual(amount);
    }
    expect(amountText({ value: 4, low: 4, high: 4 })).toBe("4");
    expect(amountText(undefined)).toBe("");
  });
});

const READ = {
  by: "reading",
  brix_reading: { value: 8.2, low: 7.9, high: 8.5 },
  acid_g_100ml: 4.6,
  acid_split: { citric_acid: 0.9, malic_acid: 0.1 },
  brix_read: true,
  source: "our own reading",
};
const WHOLE = {
  by: "parts",
  parts: {
    zest: { share: 0.06, makeup: { by: "substance", g_per_100g: { oil: { value: 4, low: 2, high: 6 } } } },
    flesh: { makeup: { by: "reading", brix_reading: 9, acid_g_100ml: 1 } },
  },
};
const LABEL = { by: "label", per: "100 mL", sugars_g: 65, carbohydrate_g: 66, abv: 18, sugar_split: { sucrose: 1 } };
const RAW = { by: "substance", g_per_100g: { sucrose: 60, insolubles: 2 } };

describe("a makeup", () => {
  it.each([
    ["reading", READ],
    ["parts", WHOLE],
    ["label", LABEL],
    ["substance", RAW],
  ])("by %s goes out as it came in", (_way, makeup) => {
    expect(makeupSent(makeupTyped(makeup))).toEqual({ sent: makeup, faults: {} });
  });

  it("tells what cannot be read at its place, also inside a part", () => {
    const typed = makeupTyped(WHOLE);
    const [zest, flesh] = typed.parts;
    if (!zest || !flesh) throw new Error("two parts");
    const spoiled = {
      ...typed,
      parts: [
        { ...zest, amount: "some" },
        { ...flesh, makeup: { ...flesh.makeup, figures: { brix_reading: "sweet" } } },
      ],
    };
    expect(Object.keys(makeupSent(spoiled).faults).sort()).toEqual(["makeup/parts/flesh/makeup/brix_reading", "makeup/parts/zest/share"]);
  });

  it("tells of a part without a name, and of two of one name", () => {
    const typed = makeupTyped(WHOLE);
    const called = (name: string) => makeupSent({ ...typed, parts: typed.parts.map((part) => ({ ...part, name })) }).faults;
    expect(called(" ")).toEqual({ "makeup/parts": "A part has no name yet." });
    expect(called("zest ")).toEqual({ "makeup/parts": "Two parts are called “zest”." });
  });

  it("takes nothing along from how it was known before", () => {
    expect(makeupSent({ ...makeupTyped(READ), by: "label" }).sent).not.toHaveProperty("brix_read");
  });

  it("leaves out what is empty, and figures of another way", () => {
    const typed = { ...EMPTY, figures: { sugars_g: " ", abv: "40", brix_reading: "9" } };
    expect(makeupSent(typed)).toEqual({ sent: { by: "label", per: "100 g", abv: 40 }, faults: {} });
  });
});

describe("a material", () => {
  const body = {
    name: "Pine honey",
    kind: "sweetener",
    makeup: RAW,
    cautions: ["Not for infants."],
    allergens: ["nuts"],
    keeps_days: 365,
    price_per_kg: "9.50",
    piece_g: { value: 100 / 3, low: 30, high: 40 },
  };

  it("goes out as it came in, with what is not typed here", () => {
    expect(bodySent(bodyTyped(body), body)).toEqual({ body, faults: {} });
  });

  it("loses what was emptied, and says nothing of allergens that nobody has read", () => {
    const sent = bodySent({ ...bodyTyped(body), keeps: "", price: "", allergens: null }, body).body;
    expect(sent).toEqual({ name: "Pine honey", kind: "sweetener", makeup: RAW, cautions: ["Not for infants."], piece_g: body.piece_g });
    expect(bodySent({ ...bodyTyped(body), keeps: "a year" }, body).faults).toHaveProperty("keeps_days");
  });
});

describe("an entry of the register", () => {
  const asked = [
    { key: "pot_cm", label: "Across", unit: "cm", low: 5, high: 100, such: 24, needed: true, whole: false },
    { key: "power_w", label: "Power", unit: "W", low: 100, high: 20000, such: 1200, needed: false, whole: true },
  ];

  it("leaves what is empty to the site, and tells what is no figure", () => {
    expect(figuresTyped(asked, { pot_cm: "24,5", power_w: " " })).toEqual({ figures: { pot_cm: 24.5 }, faults: {} });
    expect(figuresTyped(asked, { pot_cm: "wide" })).toEqual({ figures: {}, faults: { pot_cm: "Write figures, such as 24." } });
  });
});
