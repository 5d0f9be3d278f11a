import { fireEvent, screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { gapWords, walkPlaces } from "../src/views/stores/count/walk";
import { StoresView } from "../src/views/stores/StoresView";
import {
  aboutGroup,
  absentWords,
  actsOn,
  byCode,
  columns,
  found,
  headWords,
  leftWords,
  type Stock,
  shelves,
  withoutEmpty,
} from "../src/views/stores/shelf/shelves";
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
    place: "cold room",
    use_by: null,
    expires_soon: false,
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

describe("the columns", () => {
  it("keep the order of the shelves and are about as long as one another", () => {
    const all = [7, 6, 1, 3, 4, 2].map((length, n) => ({ n, groups: Array.from({ length }) }));
    expect(columns(all).map((column) => column.map((shelf) => shelf.n))).toEqual([
      [0, 1],
      [2, 3, 4, 5],
    ]);
    expect([columns([]), columns(all.slice(0, 1)).map((column) => column.length)]).toEqual([
      [[], []],
      [1, 0],
    ]);
  });
});

describe("one line of a material", () => {
  const day = (date: string) => date;
  const line = (...items: Stock[]) => aboutGroup({ material: "quince_juice", name: "Quince juice", items }, day);

  it("says where it stands or whose it is, how many deliveries there are, and what is urgent", () => {
    expect(line(delivery())).toEqual({ said: "cold room · not read", urgent: "" });
    expect(line(delivery({ place: "" }, { brix_read: true })).said).toBe("Hagedorn");
    const soon = delivery({ use_by: "2026-11-30", expires_soon: true, current: false });
    const sooner = delivery({ use_by: "2026-11-28", expires_soon: true, current: false, remaining_g: "-4", place: "" });
    expect(line(soon, sooner)).toEqual({ said: "2 deliveries · cold room", urgent: "until 2026-11-28 · count it" });
    expect(line(delivery({ recalled: "glass" })).urgent).toBe("recalled");
  });

  it("leaves out a delivery of which nothing is left, unless it is the last", () => {
    const empty = delivery({ id: "e", remaining_g: "0.0" });
    expect(withoutEmpty([empty, delivery()]).map((item) => item.id)).toEqual(["d1"]);
    expect(withoutEmpty([empty])).toEqual([empty]);
  });

  it("is found by any part of a name, a place or a code", () => {
    const items = [delivery(), delivery({ id: "d2", code: "D99", product: "Damson", place: "attic" }, { name: "Damson" })];
    const ids = (sought: string) => found(items, sought).map((item) => item.id);
    expect([ids("quin"), ids("cold hage"), ids("d99"), ids("ATTIC"), ids("attic quince"), ids("  ")]).toEqual([
      ["d1"],
      ["d1"],
      ["d2"],
      ["d2"],
      [],
      ["d1", "d2"],
    ]);
  });
});

describe("the walk of a count", () => {
  const row = (code: string, place: string, gap: { amount: number; money: string | null } | null = null) =>
    ({ code, place, gap, unit: "g" }) as unknown as Parameters<typeof walkPlaces>[0][number];

  it("keeps the order of the places, each with what stands there", () => {
    const walked = walkPlaces([row("a", "cold room"), row("b", "attic"), row("c", "cold room")]);
    expect(walked.map((one) => [one.place, one.rows.map((item) => item.code)])).toEqual([
      ["cold room", ["a", "c"]],
      ["attic", ["b"]],
    ]);
  });

  it("says what lacks or is over with its value, and nothing of one that nobody knows", () => {
    const said = (gap: { amount: number; money: string | null } | null) => gapWords(row("a", "", gap), (amount) => `€${amount}`);
    expect(said({ amount: -120, money: "-2.40" })).toMatch(/^120.g lack, €2.40$/);
    expect(said({ amount: 50, money: null })).toMatch(/^50.g over$/);
    expect([said({ amount: 0, money: "0.00" }), said(null)]).toEqual(["as the books say", ""]);
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
    expect(await screen.findByRole("button", { name: /Quince juice/ })).toBeDefined();
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
    fireEvent.click(await screen.findByRole("button", { name: /Quince juice/ }));
    const row = screen.getByRole("list", { name: "Deliveries of Quince juice" });
    expect(
      within(row)
        .getAllByRole("button")
        .map((button) => button.textContent),
    ).toEqual(["Where it went"]);
    expect(screen.queryByRole("button", { name: "Take in a delivery" })).toBeNull();
  });
});
