/** Key pairs that sign for a person in one session, and what is sealed for the site alone (Web Cryptography API). */

import { toBytes, toText } from "./bytes";
import { database, type KeptKey } from "./database";

const PAIR = { name: "ECDSA", namedCurve: "P-256" } as const;
const SIGN = { name: "ECDSA", hash: "SHA-256" } as const;
const AGREE = { name: "ECDH", namedCurve: "P-256" } as const;

/** Whether this page can make keys: browsers give them to pages of this machine and to those over TLS. */
export const canSign = () => globalThis.crypto?.subtle !== undefined;

/** A new pair for a person in a session, kept on this device. */
export async function makeKey(of: Pick<KeptKey, "person" | "signIn">): Promise<KeptKey> {
  const pair = await crypto.subtle.generateKey(PAIR, false, ["sign", "verify"]);
  const point = await crypto.subtle.exportKey("raw", pair.publicKey);
  const id = toText(await crypto.subtle.digest("SHA-256", point));
  const key: KeptKey = { ...of, id, public: toText(point), private: pair.privateKey, certificate: "" };
  await (await database()).put("keys", key);
  return key;
}

export const keptKey = async (id: string): Promise<KeptKey | undefined> => (await database()).get("keys", id);
export const keptKeys = async (): Promise<KeptKey[]> => (await database()).getAll("keys");
export const keepKey = async (key: KeptKey): Promise<string> => (await database()).put("keys", key);
export const dropKey = async (id: string): Promise<void> => (await database()).delete("keys", id);

/** Takes the private halves from this device: nobody signs with them any more. What they signed can still be shown. */
export async function forgetPrivate(): Promise<void> {
  for (const { private: _, ...rest } of await keptKeys()) await keepKey(rest);
}

/** The key's signature over the UTF-8 bytes of a text; empty once its private half is gone. */
export async function sign(id: string, text: string): Promise<string> {
  const key = (await keptKey(id))?.private;
  return key ? toText(await crypto.subtle.sign(SIGN, key, new TextEncoder().encode(text))) : "";
}

/** A value that only the site can read: an ephemeral key agrees with the site's on a secret, HKDF makes of it an AES-GCM key. */
export async function seal(siteKey: string, said: Record<string, unknown>): Promise<string> {
  const site = await crypto.subtle.importKey("raw", toBytes(siteKey), AGREE, false, []);
  const mine = await crypto.subtle.generateKey(AGREE, false, ["deriveBits"]);
  const shared = await crypto.subtle.deriveBits({ name: "ECDH", public: site }, mine.privateKey, 256);
  const material = await crypto.subtle.importKey("raw", shared, "HKDF", false, ["deriveKey"]);
  const how = { name: "HKDF", hash: "SHA-256", salt: new Uint8Array(32), info: new TextEncoder().encode("ulsek sealed") };
  const secret = await crypto.subtle.deriveKey(how, material, { name: "AES-GCM", length: 256 }, false, ["encrypt"]);
  const iv = crypto.getRandomValues(new Uint8Array(12));
  const body = await crypto.subtle.encrypt({ name: "AES-GCM", iv }, secret, new TextEncoder().encode(JSON.stringify(said)));
  const point = new Uint8Array(await crypto.subtle.exportKey("raw", mine.publicKey));
  return toText(new Uint8Array([...point, ...iv, ...new Uint8Array(body)]));
}
