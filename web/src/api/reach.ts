/** Whether the site can be reached, as every request of this page has found. Framework-free; `useAway` is its hook. */

let since: number | null = null;
const told = new Set<() => void>();

function change(next: number | null): void {
  if (next === since) return;
  since = next;
  for (const tell of told) tell();
}

/** Since when the site is away [ms since 1970]; null while it is there. */
export const awaySince = (): number | null => since;
export const away = (): void => change(since ?? Date.now());
export const back = (): void => change(null);

export function onReach(tell: () => void): () => void {
  told.add(tell);
  return () => told.delete(tell);
}
