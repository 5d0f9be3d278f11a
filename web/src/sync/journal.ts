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

/** What undo and redo step through, and the revision that it leads to. */
export interface Steps<T> {
  past: T[];
  future: T[];
  revision: number;
}

type Shelf = Pick<Storage, "getItem" | "setItem" | "removeItem">;

const stepsKey = (spec: string) => `ulsek.steps.${spec}`;
const MOST_STEPS = 60;

/** Keeps the steps of this tab, so that they survive a reload; the oldest go where there is no room. */
export function keepSteps<T>(spec: string, { past, future, revision }: Steps<T>, store: Shelf = sessionStorage): void {
  for (let most = MOST_STEPS; most >= 1; most = Math.floor(most / 2)) {
    try {
      store.setItem(stepsKey(spec), JSON.stringify({ past: past.slice(-most), future: future.slice(-most), revision }));
      return;
    } catch {
      store.removeItem(stepsKey(spec));
    }
  }
}

/** The steps of this tab; none where somebody else has written since. */
export function keptSteps<T>(spec: string, revision: number, store: Shelf = sessionStorage): Steps<T> {
  const none = { past: [], future: [], revision };
  try {
    const found = JSON.parse(store.getItem(stepsKey(spec)) ?? "null") as Steps<T> | null;
    return found && found.revision === revision && Array.isArray(found.past) && Array.isArray(found.future) ? found : none;
  } catch {
    return none;
  }
}
