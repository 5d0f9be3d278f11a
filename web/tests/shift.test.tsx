import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { MakeView } from "../src/views/make/MakeView";
import { aboutRun, dueAt, handsAt, type Run } from "../src/views/shift/hands";
import { answers, fails, NOTHING, open, slice, withSite } from "./place";

const plain = (text: string) => text.replace(/\s/g, " ");
const NOW = Date.parse("2026-11-28T18:00:00Z");
const run = (id: string, until: string | null): Run =>
  ({ id, name: id, last: "Noor", number: 2, of: 5, waiting: until && { until, since: until, kind: "steep" } }) as unknown as Run;
const over = run("over", "2026-11-28T17:45:00Z");
const soon = run("soon", "2026-11-28T18:09:00Z");
const bench = run("bench", null);

describe("what needs hands", () => {
  it("is what the site says, with how many are over and when the next will be", () => {
    const found = handsAt({ runs: [bench, over, soon], hands: "over", service_from: "18:00" }, NOW);
    expect([found.first?.id, found.rest.map((one) => one.id)]).toEqual(["over", ["bench", "soon"]]);
    expect(plain(found.words)).toBe("one thing needs hands now · next in 9 min · service at 18:00");
    expect(handsAt({ runs: [over, { ...soon, waiting: over.waiting }], hands: null, service_from: "18:00" }, NOW).words).toContain(
      "2 things need",
    );
    expect(handsAt({ runs: [bench], hands: null, service_from: "18:00" }, NOW).words).toBe("nothing is over its time · service at 18:00");
  });

  it("is told by how long it is over, else by its step", () => {
    expect(plain(aboutRun(over, NOW))).toBe("15 min over · Noor");
    expect(aboutRun(soon, NOW)).toBe("step 2 of 5 · Noor");
    expect(dueAt(bench)).toBeNull();
  });
});

describe("Make on the screen", () => {
  withSite();

  it("leads to the specs where nothing is published, and claims that only of a library it has seen", async () => {
    answers({ "/runs": NOTHING, "/specs": NOTHING });
    open(<MakeView />, { at: "/make", route: "/make" });
    expect((await screen.findByRole("link", { name: "Go to the specs" })).getAttribute("href")).toBe("/specs");
  });

  it("says what could not be fetched and keeps silent about the rest", async () => {
    answers({ "/runs": NOTHING });
    fails("/specs", 500);
    open(<MakeView />, { at: "/make", route: "/make" });
    expect(await screen.findByRole("button", { name: "Ask again" })).toBeDefined();
    expect(screen.queryByText(/Nothing can be started/)).toBeNull();
  });

  it("lets a maker start what is published, and a reader only look", async () => {
    const spec = { id: "s1", name: "Quince syrup", version: 3, last_made: null, brief: null };
    answers({ "/runs": NOTHING, "/specs": slice(spec) });
    open(<MakeView />, { at: "/make", route: "/make", role: "reader" });
    expect(await screen.findByText("Quince syrup")).toBeDefined();
    expect(screen.queryByRole("button", { name: "Start Quince syrup" })).toBeNull();
  });
});
