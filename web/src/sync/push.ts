/** This browser's subscription at its own push service, for alerts with no screen open. */

import { Problem } from "../api/client";

export interface PushDevice {
  endpoint: string;
  keys: { p256dh: string; auth: string };
}

/** Why a browser cannot be alerted, in words for its person. */
class CannotBeAlerted extends Problem {
  constructor(why: string) {
    super(409, why, "", "cannot_be_alerted");
  }
}

const bytes = (text: string) => Uint8Array.from(atob(text.replaceAll("-", "+").replaceAll("_", "/")), (letter) => letter.charCodeAt(0));
const same = (one: ArrayBuffer | null, other: Uint8Array) =>
  one !== null && other.every((value, at) => new Uint8Array(one)[at] === value) && one.byteLength === other.length;

function told(subscription: PushSubscription): PushDevice {
  const { endpoint, keys } = subscription.toJSON();
  if (!endpoint || !keys?.p256dh || !keys.auth) throw new CannotBeAlerted("This browser gave no keys for its alerts. Try another one.");
  return { endpoint, keys: { p256dh: keys.p256dh, auth: keys.auth } };
}

async function manager(): Promise<PushManager | null> {
  if (!("serviceWorker" in navigator) || !("PushManager" in window)) return null;
  return (await navigator.serviceWorker.getRegistration())?.pushManager ?? null;
}

/** The subscription that stands in this browser; null without one. */
export async function subscribed(): Promise<PushDevice | null> {
  const found = await (await manager())?.getSubscription();
  return found ? told(found) : null;
}

/** Subscribes this browser under the site's key; asks its person first. Throws CannotBeAlerted where that cannot be. */
export async function subscribe(key: string): Promise<PushDevice> {
  const at = await manager();
  if (!at) throw new CannotBeAlerted("This browser cannot be alerted. It takes a recent one, and an address with https.");
  if ((await Notification.requestPermission()) !== "granted") {
    throw new CannotBeAlerted("This browser may not show alerts. Allow notifications for this site in its settings.");
  }
  const wanted = bytes(key);
  const stands = await at.getSubscription();
  // Under another key, of before a new secret of the site, nothing would come.
  if (stands && !same(stands.options.applicationServerKey, wanted)) await stands.unsubscribe();
  try {
    return told(await at.subscribe({ userVisibleOnly: true, applicationServerKey: wanted }));
  } catch (trouble) {
    if (trouble instanceof CannotBeAlerted) throw trouble;
    throw new CannotBeAlerted("This browser's own push service cannot be reached. Is this device on the internet?");
  }
}
