/** What a form asks of a house, and what it sends. */

import type { Schemas } from "../api/client";
import { typed } from "./numbers";

/** A house as a form holds it: every part as typed. */
export interface HouseTyped {
  name: string;
  zone: string;
  currency: string;
  place: string;
  altitude: string;
  service_from: string;
  service_until: string;
  day_turns: string;
}

/** The zone of the machine that asks, where a house most likely stands. */
const zoneHere = () => Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";

export const newHouse = (): HouseTyped => ({
  name: "",
  zone: zoneHere(),
  currency: "EUR",
  place: "",
  altitude: "",
  service_from: "18:00",
  service_until: "02:00",
  day_turns: "05:00",
});

export const houseTyped = (house: Schemas["HouseOut"]): HouseTyped => ({
  name: house.name,
  zone: house.zone,
  currency: house.currency,
  place: house.place ?? "",
  altitude: house.altitude_m == null ? "" : String(house.altitude_m),
  service_from: house.service_from,
  service_until: house.service_until,
  day_turns: house.day_turns,
});

/** What is sent of a form: the height as a number, none where nobody wrote it. Null where it is no number. */
export function houseSent({ altitude, ...house }: HouseTyped): Schemas["HouseIn"] | null {
  const metres = altitude.trim() ? typed(altitude) : null;
  if (altitude.trim() && metres === null) return null;
  return { ...house, currency: house.currency.trim().toUpperCase(), altitude_m: metres };
}
