/** Bytes as text, and a value as the bytes that are signed. */

/** Base64url without padding (RFC 4648, 5). */
export function toText(bytes: ArrayBuffer | Uint8Array): string {
  const plain = Array.from(new Uint8Array(bytes), (byte) => String.fromCharCode(byte)).join("");
  return btoa(plain).replaceAll("+", "-").replaceAll("/", "_").replace(/=+$/, "");
}

export function toBytes(text: string): Uint8Array<ArrayBuffer> {
  const plain = atob(text.replaceAll("-", "+").replaceAll("_", "/"));
  return Uint8Array.from(plain, (letter) => letter.charCodeAt(0));
}

/** The one JSON text of a value (RFC 8785): names in order, no spaces, numbers as ECMAScript writes them. */
export function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map((item) => canonical(item ?? null)).join(",")}]`;
  if (typeof value !== "object" || value === null) return JSON.stringify(value) ?? "null";
  const parts = Object.entries(value)
    .filter(([, item]) => item !== undefined)
    .sort(([one], [other]) => (one < other ? -1 : 1))
    .map(([name, item]) => `${JSON.stringify(name)}:${canonical(item)}`);
  return `{${parts.join(",")}}`;
}
