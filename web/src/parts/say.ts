/** Names of bands, times and lists in words. Display only: no rule of the job lives here. */

import { GAP } from "./numbers";

const BAND_WORDS = { sugar: "sugar", acid: "acid", solids: "rest", spirit: "spirit", water: "water" } as const;
export type Band = keyof typeof BAND_WORDS;
export const BANDS = ["sugar", "acid", "solids", "spirit", "water"] as const satisfies readonly Band[];
export const bandWord = (band: Band) => BAND_WORDS[band];

/** "14:05" in the zone of the house. */
export function clock(at: string | Date, zone: string): string {
  return new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: zone }).format(new Date(at));
}

export function day(at: string | Date, zone = "UTC"): string {
  const parts = { weekday: "short", day: "numeric", month: "short", timeZone: zone } as const;
  return new Intl.DateTimeFormat("en-GB", parts).format(new Date(at));
}

/** "Friday", of a moment in the zone of the house; of a date alone in UTC. */
export const weekday = (at: string | Date | number, zone = "UTC"): string =>
  new Intl.DateTimeFormat("en-GB", { weekday: "long", timeZone: zone }).format(new Date(at));

/** "14:05" today, "Tue 13 Oct, 14:05" on another day. */
export function moment(at: string | Date, zone: string, now = new Date()): string {
  const today = day(at, zone) === day(now, zone) && now.getTime() - new Date(at).getTime() < 86_400_000;
  return today ? clock(at, zone) : `${day(at, zone)}, ${clock(at, zone)}`;
}

/** "a", "a and b", "a, b and c". */
export const listed = (words: readonly string[]) => new Intl.ListFormat("en-GB", { type: "conjunction" }).format(words);

/** "14 min", "3 h 20 min", "2 days" for a span in milliseconds. */
export function span(ms: number): string {
  const minutes = Math.max(0, Math.round(ms / 60_000));
  if (minutes < 60) return `${minutes}${GAP}min`;
  const hours = Math.floor(minutes / 60);
  if (hours >= 48) return `${Math.round(hours / 24)}${GAP}days`;
  return minutes % 60 ? `${hours}${GAP}h ${minutes % 60}${GAP}min` : `${hours}${GAP}h`;
}
