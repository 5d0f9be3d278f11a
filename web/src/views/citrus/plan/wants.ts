import type { Schemas } from "../../../api/client";
import { USUAL, WANTS } from "../../../api/rules";

export type Want = Schemas["PlanWant"];

/** A want as it is typed: its amount stays as typed until it can be read. */
export interface TypedWant {
  key: number;
  what: Want["what"];
  fruit: string;
  amount: string;
  times: string;
  spec: string;
  by: string;
  dayOld: boolean;
}

const kindOf = (what: Want["what"]) => WANTS.find((item) => item.what === what);

/** Whether it takes juice, so that the day before's may do. */
export const mayBeOld = (what: Want["what"]) => kindOf(what)?.mayBeDayOld ?? false;

export const unitOf = (what: string) => WANTS.find((item) => item.what === what)?.unit ?? "";

/** "2026-11-25T18:00" on the house's clock, as a datetime box takes it; a moment without an offset is on that clock already. */
function boxTime(at: string | Date, zone: string): string {
  if (typeof at === "string" && !/(Z|[+-]\d\d:\d\d)$/.test(at)) return at.slice(0, 16);
  return new Intl.DateTimeFormat("sv-SE", { dateStyle: "short", timeStyle: "short", timeZone: zone })
    .format(new Date(at))
    .replace(" ", "T");
}

/** The full hour `ahead` hours from now. */
function hoursAhead(ahead: number, zone: string): string {
  const at = new Date(Date.now() + ahead * 3_600_000);
  at.setMinutes(0, 0, 0);
  return boxTime(at, zone);
}

let last = 0;
export const newWant = (zone: string, given: Partial<TypedWant> = {}): TypedWant => {
  last += 1;
  return {
    key: last,
    what: "juice",
    fruit: "",
    amount: "",
    times: String(USUAL.stretched_times),
    spec: "",
    by: hoursAhead(USUAL.want_hours, zone),
    dayOld: false,
    ...given,
  };
};

/** A typed want as the planner takes it; null while something of it is missing. */
export function readWant(want: TypedWant, read: (text: string) => number | null): Want | null {
  const amount = read(want.amount);
  const times = read(want.times);
  if (amount === null || !want.by || (want.what === "spec" ? !want.spec : !want.fruit)) return null;
  return {
    what: want.what,
    fruits: want.what === "spec" ? [] : [want.fruit],
    amount,
    times: want.what === "stretched" ? times : null,
    spec: want.what === "spec" ? want.spec : null,
    by: want.by,
    name: "",
    day_old: want.dayOld && mayBeOld(want.what),
  };
}

/** A kept want back as typed. */
export const typedWant = (want: Want, zone: string): TypedWant =>
  newWant(zone, {
    what: want.what,
    fruit: want.fruits?.[0] ?? "",
    amount: String(want.amount ?? ""),
    times: String(want.times ?? USUAL.stretched_times),
    spec: want.spec ?? "",
    by: boxTime(want.by, zone),
    dayOld: want.day_old ?? false,
  });
