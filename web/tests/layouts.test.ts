import { describe, expect, it } from "vitest";
import { isUnderNow, place, serviceSpan, stripSpan } from "../src/clock-strip/layout";
import { drawGauge } from "../src/gauge/layout";
import { figure, GAP, typed } from "../src/parts/numbers";
import { span } from "../src/parts/say";
import { fromPoint, marks, most, plateScale, rayEnd, rays } from "../src/plate/layout";
import { type BandMasses, drawRiver, type RiverStep, SLIVER, widths } from "../src/river/layout";

const bands = (some: Partial<BandMasses>): BandMasses => ({
  sugar: 0,
  acid: 0,
  solids: 0,
  spirit: 0,
  water: 0,
  ...some,
});
const step = (id: string, some: Partial<RiverStep>): RiverStep => ({
  id,
  bands: bands({ water: 900, sugar: 100 }),
  bandsBefore: bands({}),
  continues: true,
  vessel: "",
  doubt: 0,
  added: [],
  leaving: [],
  ...some,
});
const rows = [0, 1, 2].map((i) => ({ top: i * 90, height: 90 }));

describe("the river", () => {
  it("is as wide as the mass, and keeps tiny bands visible", () => {
    const each = widths(bands({ water: 1000, acid: 0.1 }), 0.2);
    expect(each.water).toBeCloseTo(200);
    expect(each.acid).toBe(SLIVER);
    expect(each.spirit).toBe(0);
  });

  it("draws each tributary and each loss, and tells a by-product from a loss", () => {
    const drawing = drawRiver(
      [
        step("a", { added: [{ line: "juice", bands: bands({ water: 900, sugar: 100 }), mass: 1000 }] }),
        step("b", {
          bandsBefore: bands({ water: 900, sugar: 100 }),
          bands: bands({ water: 900, sugar: 600 }),
          added: [{ line: "sugar", bands: bands({ sugar: 500 }), mass: 500 }],
        }),
        step("c", {
          bandsBefore: bands({ water: 900, sugar: 600 }),
          leaving: [
            { name: "steam", mass: 30, kept: false },
            { name: "meal", mass: 90, kept: true },
          ],
        }),
      ],
      rows,
      400,
    );
    expect(drawing.streams.map((stream) => [stream.key, stream.band])).toEqual([["sugar", "sugar"]]);
    expect(drawing.losses.map((loss) => loss.kept)).toEqual([false, true]);
    expect(drawing.ribbons.map((ribbon) => ribbon.band)).toEqual(["sugar", "water"]);
    for (const { path } of [...drawing.ribbons, ...drawing.streams, ...drawing.losses]) expect(path).not.toContain("NaN");
  });

  it("begins another ribbon, with its name, where the steps turn to another vessel", () => {
    const pot = step("a", { vessel: "pot", added: [{ line: "juice", bands: bands({ water: 900, sugar: 100 }), mass: 1000 }] });
    const jug = step("b", {
      vessel: "jug",
      continues: false,
      bands: bands({ water: 50 }),
      added: [{ line: "water", bands: bands({ water: 50 }), mass: 50 }],
    });
    const back = step("c", { vessel: "pot", continues: false, bandsBefore: bands({ water: 900, sugar: 100 }) });
    const drawing = drawRiver([pot, jug, back], rows, 400);
    expect(drawing.heads.map((head) => head.name)).toEqual(["pot", "jug", "pot"]);
    expect(drawing.ribbons.filter((ribbon) => ribbon.band === "water")).toHaveLength(3);
    expect(drawing.ribbons.filter((ribbon) => ribbon.band === "sugar")).toHaveLength(2);
  });

  it("draws nothing for steps that have no row yet, or nothing in them", () => {
    expect(drawRiver([step("a", { bands: bands({}) })], rows, 400).ribbons).toEqual([]);
    expect(drawRiver([step("a", {})], [], 400).ribbons).toEqual([]);
  });
});

describe("the plate", () => {
  const scale = plateScale([{ sugar: 45, acid: 2.6 }], { width: 340, height: 268 });
  it("finds the spot again under its own point", () => {
    const spot = fromPoint(scale, scale.x(41.5), scale.y(1.9));
    expect(spot.sugar).toBeCloseTo(41.5);
    expect(spot.acid).toBeCloseTo(1.9);
    expect(fromPoint(scale, -500, 9000)).toEqual({ sugar: 0, acid: 0 });
  });
  it("has a scale that holds the spot, and rays of their ratio inside it", () => {
    expect(most(scale.x)).toBeGreaterThan(45);
    for (const ratio of [8, 30]) {
      const end = rayEnd(scale, ratio);
      expect(end.sugar / end.acid).toBeCloseTo(ratio);
      expect(end.sugar).toBeLessThanOrEqual(most(scale.x) + 1e-9);
    }
    expect(marks(scale.x)).toEqual([20, 40, 60]);
  });
});

it("leaves out the label of a ray that would lie over another, and never its line", () => {
  const size = { width: 340, height: 268 };
  const close = rays(plateScale([{ sugar: 80, acid: 0.5 }], size), [8, 12, 18, 30], size.width);
  expect(close).toHaveLength(4);
  const labels = close.flatMap((ray) => (ray.label ? [ray.label] : []));
  expect(labels.length).toBeLessThan(4);
  for (const [n, one] of labels.entries()) {
    for (const other of labels.slice(n + 1)) expect(Math.abs(one.x - other.x) >= 38 || Math.abs(one.y - other.y) >= 16).toBe(true);
  }
  expect(rays(plateScale([{ sugar: 30, acid: 2 }], size), [8, 30], size.width).every((ray) => ray.label)).toBe(true);
});

describe("the gauge", () => {
  it("fills from the bottom and puts the target above what is in", () => {
    const drawing = drawGauge({
      bands: bands({ water: 1000, sugar: 300 }),
      target: 2000,
      tolerance: 20,
      top: 0,
      bottom: 400,
    });
    expect(drawing.mass).toBe(1300);
    expect(drawing.fills[0]?.band).toBe("water");
    expect(drawing.line ?? 999).toBeLessThan(drawing.level);
    expect(drawing.fills.reduce((sum, fill) => sum + fill.height, 0)).toBeCloseTo(400 - drawing.level);
  });
});

describe("the clock strip", () => {
  const hour = 3_600_000;
  const now = 1_000 * hour;
  it("holds now and every wait, and says what lies beyond", () => {
    const strip = stripSpan([{ id: "a", since: now - 2 * hour, until: now + 30 * hour }], now);
    expect(place(strip, now).beyond).toBe(false);
    expect(place(strip, now + 30 * hour)).toEqual({ x: 1, beyond: true });
    expect(place(strip, now).x).toBeGreaterThan(place(strip, now - hour).x);
  });
});

it("leaves the hour under “now” out, and shows service as one piece across midnight", () => {
  const now = Date.UTC(2026, 10, 25, 20, 5);
  const strip = stripSpan([{ id: "a", since: now, until: now + 3_600_000 }], now);
  const hidden = strip.hours.filter((hour) => isUnderNow(strip, hour, now, 438)).map((hour) => new Date(hour.at).getUTCHours());
  expect(hidden).toEqual([20]);
  const parts = serviceSpan(now, now + 8 * 3_600_000, "UTC", "21:00", "02:00");
  expect(parts).toHaveLength(1);
  expect([parts[0]?.x0, parts[0]?.x1].map((x) => Math.round((x ?? 0) * 32))).toEqual([4, 24]);
});

describe("figures", () => {
  it("are printed as the bench says them", () => {
    expect([figure(1340), figure(12.345), figure(1.2345), figure(-3, 0), figure(-0.001)]).toEqual([
      `1${GAP}340`,
      "12.3",
      "1.23",
      "−3",
      "0.00",
    ]);
    expect([span(61 * 60_000), span(3 * 24 * 3_600_000)]).toEqual([`1${GAP}h 1${GAP}min`, `3${GAP}days`]);
  });
  it("are read with either decimal sign, and nothing else is a number", () => {
    expect([typed("8,2"), typed("1 340"), typed("-3"), typed("")]).toEqual([8.2, 1340, -3, null]);
    expect(["1e5", "4 g", "NaN", "--1"].map(typed)).toEqual([null, null, null, null]);
  });
});
