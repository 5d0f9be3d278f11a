/**
 * A newer build has taken the place of this page's: a place that was not fetched yet is gone, and the page is loaded anew. What is typed into a draft is kept on the
 * device.
 */

import { type ComponentType, lazy } from "react";

const RELOADED = "ulsek.reloaded";
const ONCE_IN_MS = 20_000;

/** Whether the page may be loaded anew for a part that is missing: not again at once, or it would go round for ever where the part cannot be had at all. */
export function mayReload(now: number, store: Pick<Storage, "getItem" | "setItem"> = sessionStorage): boolean {
  const last = Number(store.getItem(RELOADED) ?? 0);
  if (now - last < ONCE_IN_MS) return false;
  store.setItem(RELOADED, String(now));
  return true;
}

/** Whether the site answers: without it nothing can be loaded anew. */
const answers = () =>
  fetch("/api/health", { cache: "no-store" }).then(
    ({ ok }) => ok,
    () => false,
  );

/** A place that is fetched when it is first opened; where a newer build stands on the site, the page is loaded anew instead. */
export const lazyPlace = (load: () => Promise<{ default: ComponentType }>) =>
  lazy(async (): Promise<{ default: ComponentType }> => {
    try {
      return await load();
    } catch (error) {
      if (!(await answers()) || !mayReload(Date.now())) throw error;
      window.location.reload();
      return new Promise<never>(() => undefined);
    }
  });
