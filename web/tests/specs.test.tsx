import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { type Card, cardWish, copyState, sizeNow, stepped, stillToDo } from "../src/views/specs/card/asked";
import { CopyNotices } from "../src/views/specs/card/CopyNotices";
import { byFamily, isNarrowed, type Row, standing, type Wish } from "../src/views/specs/library/rows";
import { comparePath, newestFirst, offersOn, sidesAtFirst, type Version } from "../src/views/specs/versions/offers";
import { open, withSite } from "./place";

const row = (over: object = {}): Row =>
  ({
    id: "s1",
    name: "Quince syrup",
    family: "syrup",
    state: "published",
    version: 3,
    trial_of: "",
    base: "",
    on_shelf_ml: 0,
    ...over,
  }) as Row;

describe("the library", () => {
  it.each([
    [{ state: "withdrawn" }, "version 3 withdrawn"],
    [{ version: null }, "draft, never published"],
    [{ trial_of: "Quince syrup, version 2", version: null }, "trial beside Quince syrup, version 2 · draft, never published"],
    [{ base: "Rich syrup", on_shelf_ml: 1340, last_made: "2026-11-20T12:00:00Z" }, "version 3 · follows Rich syrup · 1.34 L on the shelf"],
    [{ last_made: "2026-11-20T12:00:00Z" }, "version 3 · last made Fri 20 Nov"],
  ])("says what stands of a spec: %o", (over, words) => expect(standing(row(over), "Europe/Berlin").replace(/\s/g, " ")).toBe(words));

  it("groups specs by family in the order of the work, those without a word last, empty ones not at all", () => {
    const families = [
      { key: "cordial", word: "Cordials" },
      { key: "shrub", word: "Shrubs" },
      { key: "syrup", word: "Syrups" },
    ];
    const found = byFamily([row({ family: "tincture" }), row(), row({ family: "cordial" })], families);
    expect(found.map(({ word, items }) => [word, items.length])).toEqual([
      ["Cordials", 1],
      ["Syrups", 1],
      ["tincture", 1],
    ]);
  });

  it("knows when fewer than all are shown", () => {
    const all: Wish = { find: "", family: "", state: "", on_shelf: false };
    expect(isNarrowed(all)).toBe(false);
    const narrower: Partial<Wish>[] = [{ find: "q" }, { family: "syrup" }, { state: "draft" }, { on_shelf: true }];
    for (const part of narrower) expect(isNarrowed({ ...all, ...part })).toBe(true);
  });
});

describe("a card", () => {
  const asked = { language: "en", beside: "nothing" as const, chosen: {}, number: undefined, scale: "spec" as const, value: null };
  const made = { serves: 49.3, volume_ml: 1482 };

  it("is asked for in another size only where one was chosen and can be read", () => {
    expect(cardWish(asked)).toEqual({ language: "en", beside: "nothing", chosen: "" });
    expect(cardWish({ ...asked, scale: "serves", value: 60 })).toMatchObject({ serves: 60 });
    expect(cardWish({ ...asked, scale: "serves", value: null })).not.toHaveProperty("serves");
    expect(cardWish({ ...asked, number: 2, chosen: { a: "x", b: "y" } })).toMatchObject({ number: 2, chosen: "a=x,b=y" });
  });

  it("grows and shrinks from what it makes now, and never to nothing", () => {
    expect(sizeNow("serves", made)).toBe(49);
    expect(stepped("serves", made, null, 1)).toBeGreaterThan(49);
    expect(stepped("times", made, 0.5, -1)).toBeGreaterThan(0);
    expect(stepped("volume_ml", made, 1, -1)).toBe(1);
  });

  it.each([
    [{ withdrawn: "", successor: null, number: 3, newest: 3 }, null, { withdrawn: false, successor: null, outdated: false, newer: null }],
    [{ withdrawn: "", successor: null, number: 2, newest: 3 }, 2, { withdrawn: false, successor: null, outdated: true, newer: 3 }],
    [{ withdrawn: "sharp", successor: 3, number: 2, newest: 3 }, null, { withdrawn: true, successor: 3, outdated: false, newer: null }],
  ])("says whether it is what holds now: %o in the hand %o", (state, carried, told) => expect(copyState(state, carried)).toEqual(told));

  it("asks a maker for questions and anybody for a critical change, once", () => {
    const open_ = { critical: true, acknowledged: false, passed: false, questions: [{}] } as Parameters<typeof stillToDo>[0];
    expect(stillToDo(open_, "maker")).toEqual({ acknowledge: true, answer: true });
    expect(stillToDo(open_, "lead")).toEqual({ acknowledge: true, answer: false });
    expect(stillToDo({ ...open_, acknowledged: true, passed: true }, "maker")).toEqual({ acknowledge: false, answer: false });
  });

  describe("on the screen", () => {
    withSite();
    it("sends whoever holds a withdrawn one to the version that takes its place", async () => {
      const card = {
        labels: { withdrawn: "Withdrawn:" },
        withdrawn: "too sharp",
        successor: 3,
        number: 2,
        newest: 3,
        why: "",
      } as unknown as Card;
      open(<CopyNotices made={card} carried={1} spec="s1" />);
      const link = await screen.findByRole("link", { name: "Version 3 takes its place" });
      expect(link.getAttribute("href")).toBe("/specs/s1/card?number=3");
      expect(screen.getByText(/The copy in your hand is version 1/)).toBeDefined();
    });
  });
});

describe("versions", () => {
  const version = (number: number, withdrawn = "") => ({ number, withdrawn }) as Version;

  it("offer what the person may do, and nothing is withdrawn twice", () => {
    expect(offersOn(version(1), { mayMake: false, mayLead: false })).toEqual([]);
    expect(offersOn(version(1), { mayMake: true, mayLead: false })).toEqual(["score", "copy"]);
    expect(offersOn(version(1), { mayMake: true, mayLead: true })).toEqual(["score", "copy", "branch", "withdraw"]);
    expect(offersOn(version(1, "sharp"), { mayMake: true, mayLead: true })).toEqual(["score", "copy", "branch"]);
  });

  it("are compared the newest with the one before it, whatever their order; else with the draft", () => {
    expect(sidesAtFirst([version(1), version(3), version(2)])).toEqual({ left: "2", right: "3" });
    expect(sidesAtFirst([version(1)])).toEqual({ left: "1", right: "draft" });
    expect(sidesAtFirst([])).toEqual({ left: "draft", right: "draft" });
    expect(newestFirst([version(1), version(3)]).map((one) => one.number)).toEqual([3, 1]);
  });

  it("stand beside another spec's newest where one was chosen", () => {
    expect(comparePath("s1", "2", "3", null)).toBe("/specs/s1/compare?left=2&right=3");
    expect(comparePath("s1", "2", "s9", { id: "s9", version: 4 })).toBe("/specs/s1/compare?left=2&with=s9&right=4");
  });
});
