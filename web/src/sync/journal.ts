/** The draft's journal on this device: the newest body as typed, until the server has it. */

export interface Entry<T> {
  body: T;
  /** The revision it was written from. */
  revision: number;
  at: number;
}

const key = (spec: string) => `ulsek.draft.${spec}`;

const WRITER = "ulsek.writer";

/** This tab, the same after a reload: a save whose answer was lost is known again as its own. */
export function writer(store: Storage = sessionStorage): string {
  const known = store.getItem(WRITER);
  if (known) return known;
  const made = crypto.randomUUID();
  store.setItem(WRITER, made);
  return made;
}

export function keep<T>(spec: string, entry: Entry<T>, store: Storage = localStorage): void {
  store.setItem(key(spec), JSON.stringify(entry));
}

export function kept<T>(spec: string, store: Storage = localStorage): Entry<T> | null {
  const text = store.getItem(key(spec));
  if (!text) return null;
  try {
    const entry = JSON.parse(text) as Entry<T>;
    return typeof entry.revision === "number" && entry.body ? entry : null;
  } catch {
    return null;
  }
}

export function forget(spec: string, store: Storage = localStorage): void {
  store.removeItem(key(spec));
}
