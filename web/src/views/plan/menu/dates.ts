/** From when to when a drink is on the menu, in words. */

import { day } from "../../../parts/say";

export const dates = ({ first, last }: { first: string; last: string | null }): string =>
  last === null ? `from ${day(first)}` : first === last ? `on ${day(first)}` : `${day(first)} to ${day(last)}`;
