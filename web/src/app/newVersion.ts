/** A newer build has taken the place of this page's: a part of it that was not fetched yet is gone, and the page is loaded anew. Drafts are kept on the device. */

const RELOADED = "ulsek.reloaded";
const ONCE_IN_MS = 20_000;

/** Whether the page may be loaded anew for a part that is missing: not again at once, or it would go round for ever where the part cannot be had at all. */
export function mayReload(now: number, store: Pick<Storage, "getItem" | "setItem"> = sessionStorage): boolean {
  const last = Number(store.getItem(RELOADED) ?? 0);
  if (now - last < ONCE_IN_MS) return false;
  store.setItem(RELOADED, String(now));
  return true;
}

export function takeUpNewVersions(): void {
  window.addEventListener("vite:preloadError", (event) => {
    if (!navigator.onLine || !mayReload(Date.now())) return;
    event.preventDefault();
    window.location.reload();
  });
}
