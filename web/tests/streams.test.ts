import { describe, expect, it } from "vitest";
import { across } from "../src/river/acrossLayout";
import { pour } from "../src/river/pourLayout";
import { recordDots } from "../src/views/citrus/cases/recordLayout";
import { newWant, readWant, typedWant } from "../src/views/citrus/plan/wants";

describe("the small river of a sum", () => {
  it("is as wide as its parts are heavy, fills its width, and leaves nothing too thin to see", () => {
    const streams = pour(
      [
        { name: "water", amount: 900 },
        { name: "sugar", amount: 100 },
        { name: "acid", amount: 0.5 },
        { name: "nothing", amount: 0 },
      ],
      340,
    );
    expect(streams.map((part) => part.name)).toEqual(["water", "sugar", "acid"]);
    expect(streams.at(-1)?.width).toBe(10);
    const [water, sugar] = streams;
    expect((water?.width ?? 0) / (sugar?.width ?? 1)).toBeCloseTo(9, 6);
    const last = streams.at(-1);
    expect((last?.x ?? 0) + (last?.width ?? 0)).toBeCloseTo(340, 6);
  });
});

describe("the river from the case to the shelf", () => {
  const flows = [
    { from: "case", to: "bin", kind: "rest", grams: 600 },
    { from: "case", to: "juice", kind: "juice", grams: 350 },
    { from: "other", to: "juice", kind: "juice", grams: 50 },
  ];

  it("puts the bin last and keeps mass on both sides", () => {
    const { left, right, ribbons } = across(flows, 320);
    expect(right.map((bank) => bank.key)).toEqual(["juice", "bin"]);
    const sum = (banks: readonly { grams: number }[]) => banks.reduce((total, bank) => total + bank.grams, 0);
    expect(sum(left)).toBe(1000);
    expect(sum(right)).toBe(1000);
    for (const bank of left) {
      const out = ribbons.filter((flow) => flow.from === bank.key);
      expect(out.reduce((total, flow) => total + flow.width, 0)).toBeCloseTo(bank.height, 6);
      expect(Math.min(...out.map((flow) => flow.y0))).toBeCloseTo(bank.y, 6);
    }
  });

  it("leaves every bank room for its name", () => {
    const { right } = across(
      ["a", "b", "c", "d"].map((to) => ({ from: "case", to, kind: "zest", grams: 1 })),
      40,
    );
    right.slice(1).forEach((bank, n) => {
      expect(bank.y - (right[n]?.y ?? 0)).toBeGreaterThanOrEqual(36);
    });
  });

  it("draws nothing of nothing", () => {
    expect(across([], 320)).toEqual({ left: [], right: [], ribbons: [] });
  });
});

describe("a want as it is typed", () => {
  const number = (text: string) => (text === "" ? null : Number(text));

  it("is read once nothing of it is missing, and comes back as typed", () => {
    const want = newWant("Europe/Berlin", { what: "stretched", fruit: "lemon", amount: "4000", by: "2026-11-27T18:00" });
    expect(readWant({ ...want, amount: "" }, number)).toBeNull();
    expect(readWant({ ...want, fruit: "" }, number)).toBeNull();
    const read = readWant(want, number);
    expect(read).toMatchObject({ what: "stretched", fruits: ["lemon"], amount: 4000, times: 4, by: "2026-11-27T18:00", spec: null });
    if (!read) throw new Error("it was read");
    expect(typedWant(read, "Europe/Berlin")).toMatchObject({ amount: "4000", times: "4", by: "2026-11-27T18:00" });
  });

  it("stands on the house's clock, whatever the device's", () => {
    const want = { ...newWant("Europe/Berlin"), fruit: "lemon", amount: "1" };
    const read = readWant(want, number);
    if (!read) throw new Error("it was read");
    expect(typedWant({ ...read, by: "2026-11-27T17:00:00Z" }, "Europe/Berlin").by).toBe("2026-11-27T18:00");
    expect(typedWant({ ...read, by: "2026-07-27T17:00:00Z" }, "Europe/Berlin").by).toBe("2026-07-27T19:00");
  });
});

describe("a fruit's record", () => {
  it("runs from the oldest on the left to the newest on the right, inside its axis", () => {
    const points = [350, 258, 372].map((value, n) => ({ at: n * 1000, value }));
    const { dots, marks } = recordDots(points, { width: 330, height: 160 });
    expect(marks.map((mark) => mark.value)).toEqual([200, 300, 400, 500]);
    expect(dots[0]?.x).toBeLessThan(dots[1]?.x ?? 0);
    expect(dots[1]?.y).toBeGreaterThan(dots[0]?.y ?? 0);
    expect(dots[2]?.y).toBeLessThan(dots[0]?.y ?? 0);
    for (const dot of dots) expect(dot.x > 36 && dot.x < 330 && dot.y > 0 && dot.y < 160).toBe(true);
  });
});
