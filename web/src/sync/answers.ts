/** The answers of the site that the service worker keeps for when it is away. Framework-free. */

/** Its number goes up when the form of the answers changes so that this application could not read what an earlier one kept. */
export const ANSWERS = "answers-3";

/** Forgets what earlier applications kept. */
export async function forgetEarlier(): Promise<void> {
  for (const name of await caches.keys()) if (name.startsWith("answers") && name !== ANSWERS) await caches.delete(name);
}
