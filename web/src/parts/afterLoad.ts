/** How long after the page stands, so that nothing competes with what somebody came for [ms]. */
const PAUSE_MS = 1200;

/** Fetches a part of the application that is likely wanted, once the page stands; where that fails, it is fetched when it is wanted. */
export function afterLoad(fetchPart: () => Promise<unknown>): void {
  const soon = () => void setTimeout(() => void fetchPart().catch(() => undefined), PAUSE_MS);
  if (typeof window === "undefined") return;
  if (document.readyState === "complete") soon();
  else window.addEventListener("load", soon, { once: true });
}
