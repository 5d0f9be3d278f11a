import { expect, it } from "vitest";
import { Problem } from "../src/api/client";
import { faultsOf, restOf } from "../src/parts/faults";
import { houseSent, houseTyped, newHouse } from "../src/parts/houseFields";
import { firstShown } from "../src/session/SignIn";

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
  const kept = { ...houseSent({ ...house, altitude: "650" }), place: "EU", places: ["EU"], is_demo: false };
  expect(houseSent(houseTyped(kept as Parameters<typeof houseTyped>[0]))).toMatchObject({ altitude_m: 650, place: "EU", zone: house.zone });
});

it("shows a refusal at its place, and one that has no place in the form below it", () => {
  const refused = new Problem(422, "“Nowhere” is no time zone.", "zone");
  expect(faultsOf(refused)).toEqual({ zone: "“Nowhere” is no time zone." });
  expect(restOf(refused, ["zone"])).toBeNull();
  expect(restOf(refused, ["name"])).toBe(refused);
  expect(faultsOf(new Problem(503, "Come back"))).toEqual({});
});
