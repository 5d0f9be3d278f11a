/** The plan's own decisions: what is said in short, whose line comes first, and where a batch stands on the strip. */

import { describe, expect, it } from "vitest";
import { daySpan, packed, waitsOf, within } from "../src/clock-strip/dayLayout";
import { weekOf } from "../src/views/plan/pars/week";
import { bottles, colourOf, forMe, hands, type Line, startWords, volume } from "../src/views/plan/today/lines";

const HOUR = 3_600_000;
const NOW = Date.parse("2026-12-02T09:24:00Z");

const line = (worker: string, name: string): Line =>
  ({
    key: name,
    hands: [
      { worker, name, from_at: "", until_at: "" },
      { worker, name, from_at: "", until_at: "" },
    ],
  }) as unknown as Line;

describe("a line in short", () => {
  it("says volumes and bottles as people do", () => {
    expect([volume(310), volume(1425), bottles(1), bottles(3)]).toEqual(["310\u00a0mL", "1.43\u00a0L", "1 bottle", "3 bottles"]);
  });

  it("says the clock alone only for today", () => {
    expect(startWords("2026-12-02T10:30:00Z", "2026-12-02", "Europe/Berlin")).toBe("11:30");
    expect(startWords("2026-12-03T10:30:00Z", "2026-12-02", "Europe/Berlin")).toBe("Thu 3 Dec, 11:30");
  });

  it("names everybody once, and puts one's own lines apart", () => {
    const [mine, other] = [line("7", "Jonas"), line("9", "Noor")];
    expect(hands(mine)).toEqual(["Jonas"]);
    expect(forMe([other, mine], 7)).toEqual({ mine: [mine], others: [other] });
    // In a list by the clock alone nobody is named.
    expect(hands(line("", ""))).toEqual([]);
  });

  it("takes the colour of what a family is mostly about", () => {
    expect([colourOf("cordial"), colourOf("syrup"), colourOf("spirit_infusion"), colourOf("unheard of")]).toEqual([
      "var(--acid)",
      "var(--sugar)",
      "var(--spirit)",
      "var(--water)",
    ]);
  });
});

it("a week of pars is seven numbers; an empty day is none, and what is no number is not kept", () => {
  expect(weekOf(["480", "", "1 280", "0", "1,5", "2", "3"])).toEqual([480, 0, 1280, 0, 1.5, 2, 3]);
  expect(weekOf(["480", "some", "0", "0", "0", "0", "0"])).toBeNull();
  expect(weekOf(["", "", "", "", "", "", ""])).toBeNull();
});

describe("the strip of a day", () => {
  const batch = (id: string, from: number, rests: number) => ({
    id,
    name: id,
    colour: "",
    ready: from + (rests + 1) * HOUR,
    hands: [
      { who: "Jonas", from, until: from + 0.5 * HOUR },
      { who: "Noor", from: from + (rests + 0.5) * HOUR, until: from + (rests + 1) * HOUR },
    ],
  });

  it("a wait lies between two hands, and not after the last one of a batch that is ready then", () => {
    const waits = waitsOf([batch("cordial", NOW, 4)]);
    expect(waits.map((wait) => [wait.from - NOW, wait.until - NOW])).toEqual([[0.5 * HOUR, 4.5 * HOUR]]);
  });

  it("waits that meet in time lie in lanes of their own, others share one", () => {
    const waits = waitsOf([batch("one", NOW, 4), batch("two", NOW + HOUR, 4), batch("three", NOW + 6 * HOUR, 2)]);
    expect(packed(waits).map((lane) => lane.map((wait) => wait.name))).toEqual([["one", "three"], ["two"]]);
  });

  it("what is outside of the strip is left out, what reaches over its end is cut there", () => {
    const span = daySpan(NOW);
    expect(span.to - span.from).toBe(26 * HOUR);
    expect(within(span, span.from - HOUR, span.from + 2.6 * HOUR)).toEqual({ x: 0, width: 0.1 });
    expect(within(span, span.to + 1, span.to + HOUR)).toBeNull();
  });
});
