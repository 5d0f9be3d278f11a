/** One lock for all that changes who the site takes this browser for, and for all that is sent: among all tabs and the service worker. */

const LOCK = "ulsek.sender";

/** Does the work when nobody else holds the lock; where the browser knows no locks, at once. */
export const alone = <T>(work: () => Promise<T>): Promise<T> =>
  typeof navigator !== "undefined" && navigator.locks ? navigator.locks.request(LOCK, work) : work();
