/** The sums that the list begins with: those that somebody used last, then those typed on this device. */

const MOST = 6;

export function ownSums<T extends { name: string }>(sums: readonly T[], used: readonly string[], typed: readonly string[]): T[] {
  const names = new Set([...used, ...typed]);
  return [...names].flatMap((name) => sums.filter((item) => item.name === name)).slice(0, MOST);
}
