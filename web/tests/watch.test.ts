import { describe, expect, it } from "vitest";
import { drawWatch } from "../src/views/make/bench/watchLayout";

const SIZE = { width: 340, height: 430 };
const pot = { start: 2400, target: 1200, points: [{ minutes: 10, value: 2100 }], expected_min: [35, 40, 47] };
const ends = (path: string) => path.match(/-?\d+(\.\d)?/g)?.map(Number) ?? [];

describe("a watch's picture", () => {
  it("goes from the last reading to the mark at the expected time, between the earliest and the latest", () => {
    const drawn = drawWatch(pot, 12, SIZE);
    const [x0, , x1, y1] = ends(drawn.onward);
    expect(x0).toBeCloseTo(drawn.points[0]?.x ?? 0, 0);
    expect(y1).toBeCloseTo(drawn.targetY, 0);
    const [, , soonest = 0, , latest = 0] = ends(drawn.fan);
    expect(soonest).toBeLessThan(x1 ?? 0);
    expect(latest).toBeGreaterThan(x1 ?? 0);
  });

  it("keeps everything inside, even long after", () => {
    const drawn = drawWatch(pot, 600, SIZE);
    for (const path of [drawn.line, drawn.onward, drawn.fan])
      for (const value of ends(path)) expect(value).toBeLessThanOrEqual(SIZE.height);
    expect(drawn.nowX).toBeLessThanOrEqual(SIZE.width);
  });

  it("has no way onward once the mark is passed or nothing is expected", () => {
    expect(drawWatch({ ...pot, expected_min: null }, 5, SIZE).onward).toBe("");
    expect(drawWatch({ ...pot, points: [{ minutes: 50, value: 1150 }] }, 51, SIZE).fan).toBe("");
  });
});
