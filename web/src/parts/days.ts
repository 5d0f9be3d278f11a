/** Days of the calendar, in the zone of the house. */

import { Temporal } from "temporal-polyfill";
import { day } from "./say";

/** The date that it is in a zone at a moment [ms since 1970], as “2026-11-28”. */
export const dateIn = (zone: string, now: number): string =>
  Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(zone).toPlainDate().toString();

/** How many days of the calendar lie between today in a zone and a date; negative for one that is past. */
export const daysUntil = (date: string, zone: string, now: number): number => Temporal.PlainDate.from(dateIn(zone, now)).until(date).days;

/** “past”, “today”, “tomorrow”, or the day itself. */
export function dayWord(date: string, zone: string, now: number): string {
  const left = daysUntil(date, zone, now);
  return left < 0 ? "past" : (["today", "tomorrow"][left] ?? day(date));
}
