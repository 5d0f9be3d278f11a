/** The service worker: keeps the application and its last answers for when the site is away, sends what waits when the browser says that the network is
 * back, and shows alerts. */

import { clientsClaim, type WorkboxPlugin } from "workbox-core";
import { ExpirationPlugin } from "workbox-expiration";
import { cleanupOutdatedCaches, type PrecacheEntry, precacheAndRoute } from "workbox-precaching";
import { registerRoute } from "workbox-routing";
import { NetworkFirst } from "workbox-strategies";
import { KEPT } from "../api/client";
import { ANSWERS, forgetEarlier } from "../sync/answers";
import { line } from "../sync/line";
import { Sender, SYNC_TAG } from "../sync/sender";

interface Extended extends Event {
  waitUntil: (work: Promise<unknown>) => void;
}
declare global {
  interface Window {
    /** Filled in when the worker is built. */
    __WB_MANIFEST: (PrecacheEntry | string)[];
  }
}
interface Heard {
  tag?: string;
  data?: { json: () => unknown } | null;
  notification?: { close: () => void; data?: string };
}
interface Scope {
  skipWaiting: () => Promise<void>;
  registration: { showNotification: (title: string, options: { body: string; tag: string; data: string }) => Promise<void> };
  clients: { openWindow: (address: string) => Promise<unknown> };
  addEventListener: (kind: string, heard: (event: Extended & Heard) => void) => void;
}

precacheAndRoute(self.__WB_MANIFEST);
const scope = self as unknown as Scope;
void scope.skipWaiting();
clientsClaim();
cleanupOutdatedCaches();
scope.addEventListener("activate", (event) => event.waitUntil(forgetEarlier()));

/** How long the site may take before what was kept is shown [s]. */
const PATIENCE_S = 6;

/** An answer that says only that the site is away counts as none; what was kept instead says so. */
const standsIn = {
  fetchDidSucceed: async ({ response }: { response: Response }) => {
    if (response.status >= 502) throw new TypeError("the site is away");
    return response;
  },
  cachedResponseWillBeUsed: async ({ cachedResponse }: { cachedResponse?: Response | undefined }) => {
    if (!cachedResponse) return null;
    const headers = new Headers(cachedResponse.headers);
    headers.set(KEPT, "yes");
    const { status, statusText } = cachedResponse;
    return new Response(cachedResponse.body, { status, statusText, headers });
  },
};
// The package's own types disagree about optional members.
const forgetsOld = new ExpirationPlugin({ maxEntries: 400, maxAgeSeconds: 3 * 86_400 }) as WorkboxPlugin;
/** Asked for what is there now, and no other time. */
const UNKEPT = ["/api/health", "/api/sync"];

registerRoute(
  ({ request, url }) => request.mode === "navigate" && !url.pathname.startsWith("/api/"),
  // Every address answers with the same page.
  new NetworkFirst({ cacheName: "page", networkTimeoutSeconds: PATIENCE_S, plugins: [standsIn, { cacheKeyWillBeUsed: async () => "/" }] }),
);
registerRoute(
  ({ request, url, sameOrigin }) =>
    sameOrigin &&
    request.method === "GET" &&
    request.cache !== "no-store" &&
    url.pathname.startsWith("/api/") &&
    !UNKEPT.includes(url.pathname),
  new NetworkFirst({
    cacheName: ANSWERS,
    networkTimeoutSeconds: PATIENCE_S,
    plugins: [standsIn, forgetsOld],
  }),
);

/** The browser has the network again, with no page open perhaps: what waits is sent. A failure makes the browser try again by itself. */
scope.addEventListener("sync", (event) => {
  if (event.tag === SYNC_TAG) event.waitUntil(new Sender(line).once());
});

/** An alert says what is due, encrypted for this browser; a touch leads there. */
scope.addEventListener("push", (event) => {
  const { title, body, path } = said(event.data);
  event.waitUntil(scope.registration.showNotification(title, { body, tag: path, data: path }));
});

function said(data: { json: () => unknown } | null | undefined): { title: string; body: string; path: string } {
  try {
    const { title, body, path } = (data?.json() ?? {}) as Record<string, unknown>;
    if (typeof title !== "string") throw new TypeError("an alert without words");
    // Only ever a place of this site.
    return { title, body: String(body), path: typeof path === "string" && /^\/[\w/-]*$/.test(path) ? path : "/shift" };
  } catch {
    return { title: "Hands now", body: "Something is due.", path: "/shift" };
  }
}

scope.addEventListener("notificationclick", (event) => {
  event.notification?.close();
  event.waitUntil(scope.clients.openWindow(event.notification?.data ?? "/shift"));
});
