/** The one sender of this browser: whatever page is open, it brings the site what people did, in order, until the site has it. Framework-free. */

import { Problem, type Schemas } from "../api/client";
import { away, awaySince, back, onReach } from "../api/reach";
import { announce, type KeptKey, keepValue, onNews, type QueuedAction, value } from "./database";
import { localMoment } from "./event";
import { keepKey, keptKeys } from "./keys";
import { alone } from "./lock";
import { prune, RUN_EVENT, refused, sendAgain, settle, waiting } from "./queue";

type Carried = Schemas["CarriedOut"];
type View = Schemas["RunOut"];

/** What the sender asks of the site. Each throws Problem where it is refused, or where the site is away (status 0 or 5xx). */
export interface Line {
  endFirst: () => Promise<void>;
  sync: (last: string) => Promise<Schemas["SyncOut"]>;
  carry: (body: Schemas["SignedActionsIn"]) => Promise<Carried>;
  registerKey: (id: string) => Promise<void>;
  claim: (body: Schemas["ClaimIn"]) => Promise<Schemas["ClaimOut"]>;
  /** Fetches a new token for this page. */
  freshPage: () => Promise<void>;
}

/** What every screen shows of the queue. */
export interface Queue {
  waiting: readonly QueuedAction[];
  refused: readonly QueuedAction[];
  /** The site asks who is here before it takes anything. */
  signedOut: boolean;
  /** Held actions that wait for this lead. */
  held: number;
}

const AT_ONCE = 20;
/** Statuses of a whole request that can come from what is in it: unreadable, too long, out of form. */
const ABOUT_THE_BATCH: readonly number[] = [400, 413, 422];
const FIRST_MS = 1500;
const MOST_MS = 30_000;
const LOOK_MS = 60_000;
/** Under this name the browser itself is asked to wake the sender when the network is back, where it can. */
export const SYNC_TAG = "ulsek.queue";

/** What an answer without a body of ours means for the actions that were in it. */
export function wayOf(problem: Problem, count: number): "later" | "sign in" | "smaller" | "refused" {
  if (problem.isAway || problem.status === 429 || problem.status === 408 || problem.status >= 500) return "later";
  if (problem.status === 401) return "sign in";
  // The page's token is stale: the next look at the session brings a new one.
  if (problem.code === "stale_page") return "later";
  return count > 1 ? "smaller" : "refused";
}

interface Waking {
  sync?: { register: (tag: string) => Promise<void> };
}

/** Asks the browser to send what waits when the network is back, even with no page open. Browsers that cannot are left alone. */
async function wakeLater(): Promise<void> {
  const worker = await globalThis.navigator?.serviceWorker?.getRegistration().catch(() => undefined);
  await (worker as Waking | undefined)?.sync?.register(SYNC_TAG).catch(() => undefined);
}

export class Sender {
  private queue: Queue = { waiting: [], refused: [], signedOut: false, held: 0 };
  private readonly told = new Set<() => void>();
  private readonly watchers = new Map<string, Set<(run: View) => void>>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private busy = false;
  private wanted = false;
  private tries = 0;
  private most = AT_ONCE;
  private compared = false;
  private stops: (() => void)[] = [];

  constructor(private readonly line: Line) {}

  readonly now = (): Queue => this.queue;

  readonly watch = (tell: () => void): (() => void) => {
    this.told.add(tell);
    return () => this.told.delete(tell);
  };

  /** Tells of a run as the site has it, each time that something of it was sent. */
  watchRun(run: string, tell: (run: View) => void): () => void {
    const all = this.watchers.get(run) ?? new Set();
    this.watchers.set(run, all.add(tell));
    return () => {
      all.delete(tell);
      if (all.size === 0) this.watchers.delete(run);
    };
  }

  /** Begins: at once, whenever something is done here, when the network or the page comes back, and on a timer. */
  start(): void {
    if (this.stops.length) return;
    const poke = () => void this.poke();
    const shown = () => document.visibilityState === "visible" && poke();
    globalThis.addEventListener?.("online", poke);
    globalThis.addEventListener?.("offline", away);
    globalThis.document?.addEventListener("visibilitychange", shown);
    const leave = onNews((news) => {
      // Another person may decide about what is held, or nobody here may.
      if (news === "who") this.compared = false;
      void this.look().then(poke);
    });
    const unreach = onReach(() => {
      this.tell({});
      // Another request of this page found the site away: it is asked until it is back.
      if (awaySince() !== null && !this.busy) this.next(FIRST_MS);
    });
    this.stops = [
      () => globalThis.removeEventListener?.("online", poke),
      () => globalThis.removeEventListener?.("offline", away),
      () => globalThis.document?.removeEventListener("visibilitychange", shown),
      () => void leave(),
      () => void unreach(),
    ];
    void prune().catch(() => undefined);
    void this.look().then(poke);
  }

  stop(): void {
    for (const end of this.stops) end();
    this.stops = [];
    clearTimeout(this.timer);
  }

  /** Sends what waits, once; throws where it could not. For a service worker, which the browser wakes again. */
  async once(): Promise<void> {
    await alone(() => this.round());
    announce("queue");
  }

  /** Sends what waits. One call at a time; a call meanwhile makes it look once more. */
  async poke(): Promise<void> {
    this.wanted = true;
    if (this.busy) return;
    this.busy = true;
    clearTimeout(this.timer);
    try {
      while (this.wanted) {
        this.wanted = false;
        await alone(() => this.round());
      }
      this.busy = false;
      this.tries = 0;
      back();
      this.next(LOOK_MS);
    } catch (error) {
      this.busy = false;
      this.failed(error);
    }
  }

  private failed(error: unknown): void {
    // The device's own store did not answer: nothing is known of the site.
    if (!(error instanceof Problem)) {
      this.later();
      return;
    }
    if (error.code === "stale_page") void this.line.freshPage().catch(() => undefined);
    if (wayOf(error, 1) === "sign in") {
      back();
      this.tell({ signedOut: true });
      this.next(LOOK_MS);
      return;
    }
    away();
    void wakeLater();
    this.later();
  }

  /** Tries again after a pause that grows, and is never the same on two devices. */
  private later(): void {
    this.next(Math.min(MOST_MS, FIRST_MS * 2 ** Math.min(this.tries, 6)) * (0.75 + Math.random() / 2));
    this.tries += 1;
  }

  private next(ms: number): void {
    clearTimeout(this.timer);
    if (this.stops.length) this.timer = setTimeout(() => void this.poke(), ms);
  }

  private async round(): Promise<void> {
    await this.line.endFirst();
    await this.confirmClaims();
    if (!this.compared || awaySince() !== null) await this.compare();
    for (;;) {
      const batch = await this.batch();
      if (batch.length === 0) break;
      await this.send(batch);
    }
    await this.look();
  }

  /** Asks which database stands there, and how much waits for this lead. One that was put back to an earlier moment is sent again what it had. */
  async compare(): Promise<void> {
    const last = (await value("last")) ?? "";
    const sync = await this.line.sync(last);
    this.compared = true;
    this.tell({ held: sync.held, signedOut: false });
    await this.epoch(sync.epoch, sync.has_last);
  }

  private async epoch(now: string, hasLast: boolean): Promise<void> {
    const before = await value("epoch");
    if (before === now && hasLast) return;
    if (before !== undefined) await sendAgain();
    await keepValue("epoch", now);
    await keepValue("last", "");
  }

  /**
   * The next that can be sent. What nobody signed goes only while its own person is signed in, or where it names nobody; what was signed on a claim waits
   * until the claim is settled, and while its person can still type the PIN again.
   */
  private async batch(): Promise<QueuedAction[]> {
    const actor = await value("actor");
    const keys = new Map((await keptKeys()).map((key) => [key.id, key]));
    const mine = (item: QueuedAction) => item.person === 0 || (item.person === actor?.person && !actor.claimed);
    const can = (item: QueuedAction) => {
      if (!item.key) return mine(item);
      const claim = keys.get(item.key)?.claim;
      return !claim || (claim.wrong !== undefined && actor?.key !== item.key);
    };
    return (await waiting()).filter(can).slice(0, this.most);
  }

  private async send(batch: readonly QueuedAction[]): Promise<void> {
    const keys = await this.certified(batch);
    const subject = batch.find((item) => this.watchers.has(item.subject))?.subject;
    const actions = batch.map(({ text, signature, key }) => ({ text, signature, certificate: keys.get(key)?.certificate ?? "" }));
    let carried: Carried;
    try {
      carried = await this.line.carry({ actions, now: localMoment(), view: subject ? { kind: RUN_EVENT, subject } : null });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      // Any other refusal of a whole request is a fault on the way to the site, and not of what is in it.
      const way = ABOUT_THE_BATCH.includes(error.status) ? wayOf(error, batch.length) : "later";
      if (way === "smaller") this.most = Math.max(1, Math.floor(batch.length / 2));
      else if (way === "refused") await settle(batch.map((item) => ({ ...item, state: "refused", refusal: refusalOf(error) })));
      else throw error;
      return;
    }
    back();
    this.most = AT_ONCE;
    await this.acknowledge(batch, carried);
    if (carried.view && subject) for (const tell of this.watchers.get(subject) ?? []) tell(carried.view as View);
  }

  private async acknowledge(batch: readonly QueuedAction[], carried: Carried): Promise<void> {
    const settled = batch.flatMap((item, n): QueuedAction[] => {
      const answer = carried.answers[n];
      // An action that the answer does not name is not known to be anywhere: it stays.
      if (!answer) return [];
      if (answer.outcome === "refused") return [{ ...item, state: "refused", refusal: refusalOf(answer) }];
      return [{ ...item, state: answer.outcome === "held" ? "held" : "done", doneAt: Date.now() }];
    });
    await settle(settled);
    const last = settled.findLast((item) => item.state === "done");
    if (last) await keepValue("last", last.id);
    await this.epoch(carried.epoch, true);
    this.tell({ signedOut: false });
    await this.look();
  }

  /** The keys of these actions, each with what the site certified of it; one of this session that the site does not know yet is told first. */
  private async certified(batch: readonly QueuedAction[]): Promise<Map<string, KeptKey>> {
    const actor = await value("actor");
    const wantedKeys = new Set(batch.map((item) => item.key));
    for (const key of await keptKeys()) {
      if (!wantedKeys.has(key.id) || key.certificate || !key.signIn || key.signIn !== actor?.signIn) continue;
      await this.line.registerKey(key.id).catch((error: unknown) => {
        // Without a certificate it waits for a lead; the others are not kept waiting.
        if (!(error instanceof Problem) || wayOf(error, 1) !== "refused") throw error;
      });
    }
    return new Map((await keptKeys()).map((key) => [key.id, key]));
  }

  /** Whoever took over without the network is confirmed by the PIN they typed, or found not to be who they said. */
  private async confirmClaims(): Promise<void> {
    const actor = await value("actor");
    for (const key of await keptKeys()) {
      if (!key.claim || key.claim.wrong !== undefined || key.certificate) continue;
      const stays = actor?.key === key.id;
      try {
        const found = await this.line.claim({ sealed: key.claim.sealed, public: key.public, stays });
        const { claim: _, ...rest } = key;
        await keepKey({ ...rest, certificate: found.certificate, signIn: found.session.id });
        if (stays) await keepValue("actor", { ...actor, signIn: found.session.id, claimed: false, since: Date.now() });
      } catch (error) {
        if (!(error instanceof Problem) || wayOf(error, 1) !== "refused") throw error;
        await keepKey({ ...key, claim: { ...key.claim, wrong: error.detail } });
      }
      announce("who");
    }
  }

  private async look(): Promise<void> {
    const [now, no] = await Promise.all([waiting(), refused()]);
    this.tell({ waiting: now, refused: no });
  }

  private tell(change: Partial<Queue>): void {
    this.queue = { ...this.queue, ...change };
    for (const tell of this.told) tell();
  }
}

const refusalOf = ({ status, code, detail }: Pick<Problem, "status" | "code" | "detail">) => ({ status, code, detail });
