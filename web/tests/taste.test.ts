import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../src/api/client";
import { labelPlaces } from "../src/plate/labels";
import { answerPage, keptSeat, leaveSeat, nextPage, sendAnswers } from "../src/sync/seat";
import { moduleRuns } from "../src/views/taste/open/moduleRuns";
import { keepPlan, keptPlan } from "../src/views/taste/plan/keptPlan";
import { asking, BLANK, lookAhead, planOf, proposedQuestion } from "../src/views/taste/plan/plan";
import { fromLine, onLine, stepped } from "../src/views/taste/seat/liking";
import { driftChart, heldWords } from "../src/views/taste/standards/standards";
import { dotPlaces } from "../src/views/taste/told/dots";
import { offers } from "../src/views/taste/told/offers";

const page = (turn: number): Schemas["SheetPageOut"] => ({
  turn,
  round: turn,
  asks: "odd",
  codes: [`${turn}01`, `${turn}02`, `${turn}03`],
});
const seat: Schemas["SeatOut"] = {
  panel: "P0001",
  house: "Tern House",
  number: 1,
  name: "Ada",
  state: "open",
  stop: "",
  first: "",
  task: "",
  hint: "",
  glass_ml: 15,
  dark_glasses: false,
  rounds: 3,
  attributes: [],
  pages: [page(1), page(2), page(3)],
  answered: [1],
  secret: "",
};
const sits = () => localStorage.setItem("ulsek.seat", JSON.stringify({ secret: "s", seat, waiting: [], refused: "" }));
const answered = (...turns: number[]) => new Response(JSON.stringify({ ...seat, answered: turns }), { status: 200 });

describe("a taster's seat", () => {
  beforeEach(() => {
    localStorage.clear();
    vi.restoreAllMocks();
    sits();
  });

  it("keeps an answer until the site has it, and goes on with the next page meanwhile", async () => {
    const away = vi.spyOn(globalThis, "fetch").mockRejectedValue(new TypeError("away"));
    answerPage(2, { code: "202" });
    await sendAnswers();
    expect(away).toHaveBeenCalled();
    const kept = keptSeat();
    expect(kept?.waiting.map((item) => [item.turn, item.answer])).toEqual([[2, { code: "202" }]]);
    expect(kept && nextPage(kept)?.turn).toBe(3);
    away.mockResolvedValue(answered(1, 2));
    await sendAnswers();
    expect(keptSeat()?.waiting).toEqual([]);
    expect(keptSeat()?.seat.answered).toEqual([1, 2]);
    leaveSeat();
    expect(keptSeat()).toBeNull();
  });

  it("does not send for ever what the site will never take, and says why", async () => {
    vi.spyOn(globalThis, "fetch").mockImplementation(
      async () => new Response(JSON.stringify({ detail: "answered already" }), { status: 422 }),
    );
    answerPage(2, { code: "202" });
    await sendAnswers();
    expect([keptSeat()?.waiting, keptSeat()?.refused]).toEqual([[], "answered already"]);
  });

  it("keeps what waits when another phone has taken the seat over", async () => {
    vi.spyOn(globalThis, "fetch").mockImplementation(async () => new Response(JSON.stringify({ detail: "no seat" }), { status: 401 }));
    answerPage(2, { code: "202" });
    await sendAnswers();
    expect(keptSeat()?.waiting.length).toBe(1);
  });
});

describe("the line of liking", () => {
  it("goes from not at all to very much, and the first key puts the mark into the middle", () => {
    expect([fromLine(-1), fromLine(0), fromLine(0.5), fromLine(2)]).toEqual([1, 1, 5.5, 10]);
    expect(onLine(10)).toBe(1);
    expect([stepped(null, "ArrowLeft"), stepped(5.5, "ArrowLeft"), stepped(9.9, "PageUp"), stepped(3, "x")]).toEqual([5.5, 5.4, 10, null]);
  });
});

describe("the plan of a panel", () => {
  const sample = (name: string) => ({ name, about: "", body: { kind: "bought", name } as Schemas["SampleIn"] });
  const form = { ...BLANK, samples: [sample("house"), sample("trial")] };

  it("is what was typed, with the words that were proposed", () => {
    expect(proposedQuestion(form)).toBe("Can anybody tell trial from house?");
    const plan = planOf({ ...form, tasters: "8", line: "12,5", pourer: "3" }, "triangle");
    expect(plan).toMatchObject({
      question: "Can anybody tell trial from house?",
      poured_by: 3,
      design: { method: "triangle", tasters: 8, line: 0.125 },
    });
    expect(planOf({ ...form, line: "x" }, "triangle").design.line).toBeNull();
  });

  it("outlives a reload for its person, and is forgotten once the site has it", () => {
    keepPlan(1, 2, form);
    expect([keptPlan(1, 2), keptPlan(1, 3)]).toEqual([form, BLANK]);
    keepPlan(1, 2, null);
    localStorage.setItem("ulsek.plan.1.2", "{");
    expect(keptPlan(1, 2)).toEqual(BLANK);
  });

  it("begins anew with what depends on the question", () => {
    const liked = asking({ ...form, attributes: ["sweet"], sequential: true }, "preference");
    expect(liked).toMatchObject({ line: "65", rounds: "1", attributes: [], sequential: false, method: "" });
    expect(lookAhead(asking(form, "standing"))).toMatchObject({ aim: "standing", count: 2, design: { line: 1 } });
  });
});

describe("what is drawn of a panel", () => {
  it("puts dots that would lie on each other above one another", () => {
    const dot = (seat: number, value: number) => ({ seat, round: 1, value });
    const places = dotPlaces([dot(1, 5), dot(2, 5), dot(3, 5.1), dot(4, 9)], (value) => value * 20);
    expect(places.map(({ up }) => up)).toEqual([0, 1, 2, 0]);
  });

  it("puts labels where they lie on nothing, and leaves out one that has no room", () => {
    const spots = Array.from({ length: 30 }, () => ({ x: 100, y: 100, label: "7.4" }));
    const places = labelPlaces(spots, 340);
    expect(places[0]).toEqual({ x: 111, y: 105, anchor: "start" });
    expect(places.filter((place) => place === null).length).toBeGreaterThan(20);
    const [first, second] = labelPlaces(
      [
        { x: 330, y: 50, label: "5.3" },
        { x: 50, y: 50, label: "" },
      ],
      340,
    );
    expect([first?.anchor, second]).toEqual(["end", null]);
  });

  it("draws a scanned code in runs", () => {
    expect(moduleRuns(["1101", "0110"])).toBe("M0 0h2v1h-2zM3 0h1v1h-1zM1 1h2v1h-2z");
  });

  it("offers to keep what the house has, whatever was shown", () => {
    const panel = { aim: "difference", is_shown: false, samples: [{ short: "version 3" }, { short: "trial" }] } as Schemas["PanelOut"];
    expect(offers(panel)).toEqual(["Version 3 stays", "Switch to Trial", "Ask more people"]);
    expect(offers({ ...panel, is_shown: true })).toEqual(["Version 3 stays", "Switch to Trial all the same"]);
    expect(offers({ ...panel, age: { words: "", days: null, stands: "", caution: "" } })).toEqual(["The date stays", "Ask more people"]);
  });

  it("draws batches by date and by how far they lie from the standard, and panels below", () => {
    const point = (lot: string, version: number, day: string, sugar: number | null, acid: number | null) => ({
      lot,
      version,
      day,
      sugar,
      acid,
      words: "",
    });
    const drift = {
      points: [point("L1", 1, "2026-10-01", 0, 0), point("L2", 2, "2026-10-29", -0.2, null), point("L3", 2, "2026-11-05", 0.05, 0.1)],
      words: "",
      noticeable: 0.1,
    };
    const panel = { panel: "p", code: "P0001", day: "2026-11-05", headline: "told", is_shown: true };
    const chart = driftChart(drift, [panel], 700);
    expect(chart?.sugar.map(({ key }) => key)).toEqual(["L1", "L2", "L3"]);
    expect(chart?.acid.map(({ key }) => key)).toEqual(["L1", "L3"]);
    const [first, second, third] = chart?.sugar ?? [];
    expect([first?.y, (second?.x ?? 0) > (first?.x ?? 0)]).toEqual([chart?.zero, true]);
    expect(second?.y).toBeGreaterThan(chart?.band.bottom ?? 0);
    expect(third?.says).toMatch(/^L3, .*: sugar \+5/);
    expect(chart?.versions.map(({ label }) => label)).toEqual(["version 1", "version 2"]);
    expect(chart?.panels[0]?.x).toBe(third?.x);
    expect(driftChart({ ...drift, points: [] }, [], 700)).toBeNull();
    expect(heldWords({ portions: 1, portion_ml: 60, until: "2026-12-24" })).toBe("1 portion of 60 mL, until Thu 24 Dec");
    expect(heldWords({ portions: null, portion_ml: 200, until: null })).toBe("Made again by weight");
  });
});
