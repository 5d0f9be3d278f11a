/** The service worker: registered once the page stands, so that it never stands in the way of the first paint. */

export function registerWorker(): void {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD) return;
  const register = () => void navigator.serviceWorker.register("/sw.js", { scope: "/" }).catch(() => undefined);
  if (document.readyState === "complete") setTimeout(register, 1500);
  else window.addEventListener("load", () => setTimeout(register, 1500), { once: true });
}
