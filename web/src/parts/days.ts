/** Days of a house: of the calendar in its zone, from the hour at which its day turns. */

import { Temporal } from "temporal-polyfill";
import { day } from "./say";

/** The clock of a house: its zone, and the hour at which its day turns, as “05:00”; midnight where a session of before does not say. */
interface HouseClock {
  zone: string;
  day_turns?: string;
}

/** The day that it is in a house at a moment [ms since 1970], as “2026-11-28”: before its day turns it is still the day before. */
export function dateIn({ zone, day_turns = "00:00" }: HouseClock, now: number): string {
  const there = Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(zone);
  const turned = Temporal.PlainTime.compare(there.toPlainTime(), Temporal.PlainTime.from(day_turns)) >= 0;
  return there
    .toPlainDate()
    .subtract({ days: turned ? 0 : 1 })
    .toString();
}

/** How many days lie between today in a house and a date; negative for one that is past. */
export const daysUntil = (date: string, house: HouseClock, now: number): number =>
  Temporal.PlainDate.from(dateIn(house, now)).until(date).days;

/** “past”, “today”, “tomorrow”, or the day itself. */
export function dayWord(date: string, house: HouseClock, now: number): string {
  const left = daysUntil(date, house, now);
  return left < 0 ? "past" : (["today", "tomorrow"][left] ?? day(date));
}
