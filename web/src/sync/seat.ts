/**
 * A taster's seat on this phone: what it was told, the secret that it answers by, and answers that wait until the site can be reached. A taster may be
 * nobody of the house, so there is no key to sign with: each answer has an id, and the site takes it once.
 */

import { client, type Problem, type Schemas, unwrap } from "../api/client";

/** What a taster answers to one page. */
export type Answer = Schemas["TasterAnswer"];

interface WaitingAnswer {
  id: string;
  turn: number;
  answer: Answer;
  /** When it was given here [ISO 8601]. */
  at: string;
}

export interface KeptSeat {
  secret: string;
  seat: Schemas["SeatOut"];
  waiting: WaitingAnswer[];
  /** Why the site did not take an answer; empty while it does. */
  refused: string;
}

const STORE = "ulsek.seat";
const HEADER = "X-Ulsek-Seat";

/** The seat that this phone holds; null without one. */
export function keptSeat(): KeptSeat | null {
  try {
    const kept = JSON.parse(localStorage.getItem(STORE) ?? "null") as KeptSeat | null;
    return kept?.secret ? kept : null;
  } catch {
    return null;
  }
}

function keep(kept: KeptSeat | null): void {
  if (kept) localStorage.setItem(STORE, JSON.stringify(kept));
  else localStorage.removeItem(STORE);
  for (const tell of heard) tell();
}

const heard = new Set<() => void>();

/** Tells of every change of the seat. Returns what ends that. */
export function onSeat(tell: () => void): () => void {
  heard.add(tell);
  return () => heard.delete(tell);
}

/** Takes a seat with a code. The one that this phone had before is given up; answers that wait for it are sent first. */
export async function takeSeat(code: string, name: string): Promise<void> {
  await sendAnswers();
  const seat = await unwrap(client.POST("/api/seat", { body: { code, name } }));
  const { secret } = seat;
  keep({ secret, seat: { ...seat, secret: "" }, waiting: [], refused: "" });
}

/** This phone gives its seat up. */
export const leaveSeat = (): void => keep(null);

const withSecret = (secret: string) => ({ headers: { [HEADER]: secret } });

/** Asks the site how the seat stands. Throws Problem. */
export async function askSeat(): Promise<void> {
  const kept = keptSeat();
  if (!kept) return;
  told(kept.secret, await unwrap(client.GET("/api/seat", { ...withSecret(kept.secret), cache: "no-store" })));
}

function told(secret: string, seat: Schemas["SeatOut"], change: Partial<KeptSeat> = {}): void {
  const now = keptSeat();
  // Another seat may have been taken while the answer was on its way.
  if (now?.secret === secret) keep({ ...now, ...change, seat: { ...seat, secret: "" } });
}

/** Steps out. Why is not asked. */
export async function stepOut(): Promise<void> {
  const kept = keptSeat();
  if (kept) told(kept.secret, await unwrap(client.POST("/api/seat/out", withSecret(kept.secret))), { waiting: [] });
}

/** Keeps an answer on this phone and sends what waits. */
export function answerPage(turn: number, answer: Answer): void {
  const kept = keptSeat();
  if (!kept) return;
  keep({ ...kept, waiting: [...kept.waiting, { id: crypto.randomUUID(), turn, answer, at: new Date().toISOString() }] });
  void sendAnswers();
}

let sending: Promise<void> | null = null;

/** Sends what waits, one after the other, until one cannot be sent. */
export function sendAnswers(): Promise<void> {
  sending ??= sendAll().finally(() => {
    sending = null;
  });
  return sending;
}

async function sendAll(): Promise<void> {
  for (let kept = keptSeat(); kept?.waiting[0]; kept = keptSeat()) {
    const { secret } = kept;
    const first = kept.waiting[0];
    try {
      const seat = await unwrap(client.POST("/api/seat/answers", { body: first, keepalive: true, ...withSecret(secret) }));
      told(secret, seat, { waiting: withoutFirst(first.id), refused: "" });
    } catch (error) {
      const { status, detail } = error as Problem;
      // Away, or too busy: it waits. What the site will never take is not sent for ever, and the taster is told.
      if (!(status >= 400 && status < 500)) return;
      const now = keptSeat();
      if (now?.secret === secret) keep({ ...now, waiting: status === 401 ? now.waiting : withoutFirst(first.id), refused: detail });
      if (status === 401) return;
    }
  }
}

const withoutFirst = (id: string) => (keptSeat()?.waiting ?? []).filter((item) => item.id !== id);

/** The page that is next: the first that is neither answered nor waits; null after the last. */
export function nextPage({ seat, waiting }: KeptSeat): Schemas["SheetPageOut"] | null {
  const done = new Set([...seat.answered, ...waiting.map((item) => item.turn)]);
  return seat.pages.find((page) => !done.has(page.turn)) ?? null;
}
