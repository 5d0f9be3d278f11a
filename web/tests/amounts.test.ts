import { expect, it } from "vitest";
import { dateIn, daysUntil, dayWord } from "../src/parts/days";
import { keepSteps, keptSteps } from "../src/sync/journal";
import { amountText, edited, type Fixed, rangeOf, withEnd } from "../src/views/specs/workbench/amounts";

const ranged = { kind: "fixed", mass_g: { value: 10, low: 8, high: 12 }, to_taste: true, scales: false } as Fixed;

it("keeps what an amount means when how much is typed anew", () => {
  const range = rangeOf(ranged);
  if (!range) throw new Error("no range");
  expect(withEnd(ranged, range, "value", "20")).toEqual({ ...ranged, mass_g: { value: 20, low: 16, high: 24 } });
  expect(withEnd(ranged, range, "value", "12,5")).toEqual({ ...ranged, mass_g: { value: 12.5, low: 10, high: 15 } });
  expect(withEnd(ranged, range, "high", "14")).toEqual({ ...ranged, mass_g: { value: 10, low: 8, high: 14 } });
  // Half typed: nothing is lost on the way to the next figure.
  expect(withEnd(ranged, range, "value", "")).toEqual({ ...ranged, mass_g: { value: "", low: 8, high: 12 } });
  const plain = { kind: "fixed", mass_g: 500, scales: false, to_taste: true } as Fixed;
  expect([rangeOf(plain), amountText(plain)]).toEqual([null, "500 g"]);
  expect(edited(ranged, "20 g")).toEqual(withEnd(ranged, range, "value", "20"));
  expect(edited(ranged, "")).toEqual(withEnd(ranged, range, "value", ""));
  expect(edited(ranged, "2 cups")).toEqual({ kind: "fixed", written: "2 cups", scales: false, to_taste: true });
  expect(edited(plain, "2 cups")).toEqual({ kind: "fixed", written: "2 cups", scales: false, to_taste: true });
  expect([{ count: 3 }, { volume_ml: 20 }, { written: "1 kg" }, {}].map((item) => amountText({ kind: "fixed", ...item } as Fixed))).toEqual(
    [...["3 pieces", "20 mL", "1 kg", ""]],
  );
});

it.each([
  // The clocks go back on 1 November 2026 in Los Angeles, and on 25 October in Berlin; Auckland's go forward on 27 September; Kathmandu's never do.
  ["America/Los_Angeles", "2026-11-01T06:30:00Z", "2026-10-31", ["2026-10-30", "2026-10-31", "2026-11-01", "2026-11-02"]],
  ["America/Los_Angeles", "2026-11-02T07:30:00Z", "2026-11-01", ["2026-10-31", "2026-11-01", "2026-11-02", "2026-11-03"]],
  ["Europe/Berlin", "2026-10-24T22:30:00Z", "2026-10-25", ["2026-10-24", "2026-10-25", "2026-10-26", "2026-10-27"]],
  ["Pacific/Auckland", "2026-09-26T11:59:00Z", "2026-09-26", ["2026-09-25", "2026-09-26", "2026-09-27", "2026-09-28"]],
  ["Asia/Kathmandu", "2026-11-27T18:14:00Z", "2026-11-27", ["2026-11-26", "2026-11-27", "2026-11-28", "2026-11-29"]],
] as const)("counts days by the calendar of %s at %s", (zone, at, today, dates) => {
  const now = Date.parse(at);
  const house = { zone };
  expect(dateIn(house, now)).toBe(today);
  expect(dates.map((date) => daysUntil(date, house, now))).toEqual([-1, 0, 1, 2]);
  expect(dates.slice(0, 3).map((date) => dayWord(date, house, now))).toEqual(["past", "today", "tomorrow"]);
  expect(dayWord(dates[3], house, now)).toMatch(/^(Sun|Mon|Tue) \d/);
});

it("counts the night for the evening before, until the day of the house turns", () => {
  const house = { zone: "Europe/Berlin", day_turns: "05:00" };
  expect(dateIn(house, Date.parse("2026-11-28T03:59:00Z"))).toBe("2026-11-27");
  expect(dateIn(house, Date.parse("2026-11-28T04:00:00Z"))).toBe("2026-11-28");
  expect(dayWord("2026-11-27", house, Date.parse("2026-11-28T01:00:00Z"))).toBe("today");
});

it("keeps undo over a reload, and not over what somebody else has written", () => {
  sessionStorage.clear();
  keepSteps("7.cordial", { past: ["a", "b"], future: ["d"], revision: 4 });
  expect(keptSteps("7.cordial", 4)).toEqual({ past: ["a", "b"], future: ["d"], revision: 4 });
  expect(keptSteps("7.cordial", 5).past).toEqual([]);
  expect(keptSteps("8.cordial", 4).past).toEqual([]);
  let room = 40;
  const small = {
    setItem: (_: string, text: string) => {
      if (text.length > room) throw new Error("full");
      sessionStorage.setItem("ulsek.steps.x", text);
    },
    removeItem: () => undefined,
    getItem: (key: string) => sessionStorage.getItem(key),
  };
  keepSteps("x", { past: Array.from({ length: 50 }, (_, n) => n), future: [], revision: 1 }, small);
  expect(keptSteps<number>("x", 1, small).past.at(-1)).toBe(49);
  room = 0;
  expect(() => keepSteps("x", { past: [1], future: [], revision: 1 }, small)).not.toThrow();
});
