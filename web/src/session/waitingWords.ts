/** What waits on this device, in one line. */

import { clock, listed, span } from "../parts/say";
import type { QueuedAction } from "../sync/database";

const nobody = "somebody";

/** “Jonas 2, Noor 1” for things by whom, in the order in which they began. */
export function byPerson(items: readonly Pick<QueuedAction, "by">[]): string {
  const counts = new Map<string, number>();
  for (const { by } of items) counts.set(by || nobody, (counts.get(by || nobody) ?? 0) + 1);
  return listed([...counts].map(([name, count]) => (counts.size === 1 ? name : `${name} ${count}`)));
}

/** “Without Ulsek since 18:04; 3 waiting: Jonas 2 and Noor 1, the oldest 5 min old.” Empty where nothing is to be said. */
export function waitingWords(
  items: readonly QueuedAction[],
  away: number | null,
  signedOut: boolean,
  zone: string,
  now = Date.now(),
): string {
  const since = away === null ? "" : `Without Ulsek since ${clock(new Date(away), zone)}`;
  if (items.length === 0) return since && `${since}; this device goes on with what it has.`;
  const oldest = Math.min(...items.map((item) => item.at));
  const age = now - oldest < 60_000 ? "" : `, the oldest ${span(now - oldest)} old`;
  const what = `${items.length} waiting: ${byPerson(items)}${age}`;
  if (since) return `${since}; ${what}.`;
  return signedOut ? `${what}. Sign in, and they are sent; nothing is lost.` : `${what}.`;
}
