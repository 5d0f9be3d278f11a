import { fireEvent, screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { StoresView } from "../src/views/stores/StoresView";
import { absentWords, actsOn, byCode, headWords, leftWords, type Stock, shelves } from "../src/views/stores/shelves";
import { answers, fails, NOTHING, open, slice, withSite } from "./place";

const delivery = (over: object = {}, view: object = {}): Stock =>
  ({
    id: "d1",
    code: "D12",
    material: "quince_juice",
    product: "Pressed quince",
    supplier: "Hagedorn",
    received_at: "2026-11-27T07:00:00Z",
    remaining_g: "1340",
    price_per_kg: "4.10",
    current: true,
    gone_at: null,
    recalled: "",
    form: "",
    colour: "",
    ...over,
    view: { kind: "juice", name: "Quince juice", readable: true, brix_read: false, acid_read: false, figures: {}, bands: {}, ...view },
  }) as unknown as Stock;

describe("the shelves", () => {
  it("stand in the order of a bar, an unknown kind last, with deliveries of one material side by side", () => {
    const found = shelves([
      delivery({ id: "a", material: "ash" }, { kind: "ash", name: "Ash" }),
      delivery({ id: "b", material: "sugar" }, { kind: "sweetener", name: "Sugar" }),
      delivery({ id: "c" }),
      delivery({ id: "d" }),
    ]);
    expect(found.map((shelf) => shelf.word)).toEqual(["Juices", "Sugars", "ash"]);
    expect(found[0]?.groups.map((group) => [group.name, group.items.map((item) => item.id)])).toEqual([["Quince juice", ["c", "d"]]]);
  });

  it("say how much nobody has read, and claim nothing of an empty or unknown store", () => {
    expect(headWords([delivery(), delivery({ current: false })], false)).toBe("one delivery nobody has read yet");
    expect(headWords([delivery(), delivery()], false)).toBe("2 deliveries nobody has read yet");
    expect(headWords([delivery({}, { brix_read: true })], false)).toBe("every delivery in use has been read");
    expect([headWords([], false), headWords(undefined, false)]).toEqual(["", ""]);
  });

  it("take less than nothing for a miscount", () => {
    expect(leftWords({ remaining_g: "-20" })).toMatchObject({ short: true, words: expect.stringContaining("count it") });
    expect(leftWords({ remaining_g: "20" }).short).toBe(false);
  });
});

describe("what may be done with a delivery", () => {
  it.each([
    ["a reader looks where it went", {}, false, ["trace"]],
    ["a maker reads, counts and labels it", {}, true, ["read", "trace", "count", "label"]],
    ["what is gone is neither read nor labelled", { gone_at: "2026-11-28T00:00:00Z" }, true, ["trace", "count"]],
    ["what was recalled is not counted", { recalled: "glass" }, true, ["read", "trace", "label"]],
  ])("%s", (_, over, mayMake, acts) => expect(actsOn(delivery(over), mayMake)).toEqual(acts));

  it("is found by its code however it is typed, and said where it is not", () => {
    expect(byCode([delivery()], "d12")?.id).toBe("d1");
    expect(byCode([delivery()], undefined)).toBeUndefined();
    expect(absentWords("d9", false)).toContain("What is gone");
  });
});

describe("Stores on the screen", () => {
  withSite();

  it("says what could not be fetched, claims nothing beside it, and asks again by a press", async () => {
    fails("/stock", 500, "It is written down.");
    open(<StoresView />, { at: "/stores", route: "/stores" });
    expect(await screen.findByText("It is written down.")).toBeDefined();
    expect(screen.queryByText(/has been read|The shelves are empty/)).toBeNull();
    answers({ "/stock": slice(delivery()) });
    fireEvent.click(screen.getByRole("button", { name: "Ask again" }));
    expect(await screen.findByText("Pressed quince")).toBeDefined();
    expect(screen.getByText("one delivery nobody has read yet")).toBeDefined();
  });

  it("teaches where it is empty", async () => {
    answers({ "/stock": NOTHING });
    open(<StoresView />, { at: "/stores", route: "/stores" });
    expect(await screen.findByText("The shelves are empty")).toBeDefined();
    expect(screen.getByRole("button", { name: "Take in a delivery" })).toBeDefined();
  });

  it("gives a reader nothing to change", async () => {
    answers({ "/stock": slice(delivery()) });
    open(<StoresView />, { at: "/stores", route: "/stores", role: "reader" });
    const row = (await screen.findByText("Pressed quince")).closest("li");
    expect(
      within(row as HTMLElement)
        .getAllByRole("button")
        .map((button) => button.textContent),
    ).toEqual(["Where it went"]);
    expect(screen.queryByRole("button", { name: "Take in a delivery" })).toBeNull();
  });
});
