import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { expect, it } from "vitest";
import { Problem } from "../src/api/client";
import { faultsOf, restOf } from "../src/parts/faults";
import { houseSent, houseTyped, newHouse } from "../src/parts/houseFields";
import { firstShown } from "../src/session/SignIn";
import { levelOf } from "../src/views/house/cleared/levels";
import { actWords } from "../src/views/house/history/acts";
import { rowOf, rowsSent, tableRows, tickedSent } from "../src/views/stores/many/rows";

it("asks for a house to be opened only where there is none at all, and shows an invitation to whoever has its link", () => {
  expect(firstShown("freely", false, "/shift")).toBe("open");
  expect(firstShown("by code", false, "/shift")).toBe("open");
  expect(firstShown("freely", true, "/shift")).toBe("");
  expect(firstShown("", false, "/shift")).toBe("");
  expect(firstShown("freely", false, "/join")).toBe("join");
});

it("sends a height as it was typed in figures, none where nobody wrote one, and nothing at all where it is no number", () => {
  const house = { ...newHouse(), name: "Plover Room", currency: "eur " };
  expect(houseSent(house)).toMatchObject({ name: "Plover Room", currency: "EUR", altitude_m: null, day_turns: "05:00" });
  expect(houseSent({ ...house, altitude: "1 200,5" })?.altitude_m).toBe(1200.5);
  expect(houseSent({ ...house, altitude: "high" })).toBeNull();
  const kept = { ...houseSent({ ...house, altitude: "650" }), place: "EU", is_demo: false };
  expect(houseSent(houseTyped(kept as Parameters<typeof houseTyped>[0]))).toMatchObject({ altitude_m: 650, place: "EU", zone: house.zone });
});

it("shows a refusal at its place, and one that has no place in the form below it", () => {
  const refused = new Problem(422, "“Nowhere” is no time zone.", "zone");
  expect(faultsOf(refused)).toEqual({ zone: "“Nowhere” is no time zone." });
  expect(restOf(refused, ["zone"])).toBeNull();
  expect(restOf(refused, ["name"])).toBe(refused);
  expect(faultsOf(new Problem(503, "Come back"))).toEqual({});
});

it("takes in what is ticked and the rows that are complete, with the price as a number or nobody's guess", () => {
  expect(
    tickedSent({ lemon: { product: "Lemon", pack: "5 kg", price: " 14,50 " }, gin: { product: "Gin", pack: "700 ml", price: "" } }),
  ).toEqual([
    { material: "lemon", product: "Lemon", supplier: "", pack: "5 kg", packs: 1, price: "14.50" },
    { material: "gin", product: "Gin", supplier: "", pack: "700 ml", packs: 1, price: null },
  ]);
  const read = {
    line: 2,
    product: "Lemons",
    material: "lemon",
    material_name: "Lemon",
    supplier: "",
    pack: "5 kg",
    packs: 2,
    price: "",
    doubts: [],
  };
  const rows = tableRows({
    columns: [],
    rows: [read, { ...read, line: 3, doubts: ["Is it Lemon?"] }, { ...read, line: 4, pack: "", doubts: ["What does a pack hold?"] }],
  });
  expect(rows.map((row) => row.wanted)).toEqual([true, false, false]);
  expect(rowsSent(rows)).toHaveLength(1);
  expect([rowOf("items/3/pack"), rowOf("text")]).toEqual([3, null]);
});

it("has words for every act that the site writes into the history", () => {
  const root = join(__dirname, "../../src/ulsek");
  const code = readdirSync(root, { recursive: true, encoding: "utf-8" })
    .filter((path) => path.endsWith(".py"))
    .map((path) => readFileSync(join(root, path), "utf-8"))
    .join("\n");
  const acts = new Set([...code.matchAll(/\.wrote\(\s*"([a-z_]+)"/g)].map((found) => found[1] ?? ""));
  expect(acts.size).toBeGreaterThan(50);
  expect([...acts].filter((act) => actWords(act) === act.replaceAll("_", " ") && !["invite", "leave", "recall"].includes(act))).toEqual([]);
  expect(actWords("lot_topped_up")).toBe("topped up");
});

it("marks how far somebody has come with a spec by the furthest that they did", () => {
  const none = {
    person: 1,
    read_at: null,
    rehearsed_at: null,
    made: 0,
    made_at: null,
    beside_at: null,
    beside: [],
    cleared_at: null,
    cleared_by: "",
  };
  const at = "2026-11-28T10:00:00Z";
  const marks = [
    none,
    { ...none, read_at: at },
    { ...none, read_at: at, rehearsed_at: at },
    { ...none, beside_at: at },
    { ...none, made: 2, beside_at: at },
  ];
  expect(marks.map((did) => levelOf(did).mark)).toEqual(["–", "R", "T", "B", "M"]);
  expect(levelOf({ ...none, made: 2, cleared_at: at }).word).toBe("cleared");
  expect(levelOf(undefined).mark).toBe("–");
});
