/** One run at this device: what the site said of it, with what was done here since, worked out at once and settled by the site's answer. Framework-free. */

import { client, Problem, type Schemas, unwrap } from "../api/client";
import { awaySince, onReach } from "../api/reach";
import { foldHere, isCoreReady } from "./core";
import { onNews } from "./database";
import { type Happening, makeEvent } from "./event";
import { enqueue, eventOf, NobodyHere, sentIn, waitingIn } from "./queue";
import { keepAlone, keepRun, keptRun } from "./runs";
import type { Sender } from "./sender";

export type Run = Schemas["RunOut"];

export interface DeskState {
  /** The run as this device knows it; null until the site or the device has answered. */
  run: Run | null;
  /** What was just done is not worked out yet: what stands on the screen is from before it, and must not be acted on. */
  settling: boolean;
  /** Worked out here, because the site is away. */
  alone: boolean;
  /** What could not be kept, in words. */
  refused: string | null;
}

const AGAIN_MS = 2000;
const SOON_MS = 400;

/** Whether what this device keeps to fold with holds every material that is in the run by now: a jar that nobody planned brings its own. */
const holdsAll = (pinned: Schemas["OfflineOut"], run: Run) =>
  run.state.steps.flatMap((step) => step.lines).every(({ material }) => material.includes(":") || material in pinned.materials);

export class RunDesk {
  private state: DeskState = { run: null, settling: false, alone: false, refused: null };
  private readonly told = new Set<() => void>();
  private lamport = 0;
  private turn = 0;
  private unsent = 0;
  private answers = 0;
  /** How many records are being signed and kept: until they are, no answer settles anything. */
  private keeping = 0;
  private readonly since = Date.now();
  private readonly askedFor = new Set<string>();
  private again: ReturnType<typeof setTimeout> | undefined;
  private stops: (() => void)[] = [];

  constructor(
    private readonly id: string,
    private readonly sender: Sender,
  ) {}

  readonly now = (): DeskState => this.state;
  readonly watch = (tell: () => void): (() => void) => {
    this.told.add(tell);
    return () => this.told.delete(tell);
  };

  start(): void {
    this.stops = [
      this.sender.watchRun(this.id, (run) => void this.answered(run)),
      onNews((news) => news === "queue" && void this.changed()),
      onReach(() => void (awaySince() === null ? this.cameBack() : this.workOut())),
    ];
    void this.changed();
  }

  stop(): void {
    clearTimeout(this.again);
    for (const end of this.stops) end();
    this.stops = [];
  }

  /** Keeps what happens, signed with how a person would say it, and works out where the run stands with it. */
  async record(happened: readonly Happening[], inWords: (happening: Happening) => string): Promise<void> {
    this.keeping += 1;
    this.tell({ refused: null, settling: true });
    let refused: string | null = null;
    try {
      const made = [];
      for (const happening of happened) {
        this.lamport += 1;
        made.push({ event: await makeEvent(happening, this.lamport), what: inWords(happening) });
      }
      await enqueue(this.id, made);
    } catch (error) {
      const full = "This device has no room left to keep that, so it does not count. Free some room on it, or go on with another device.";
      refused = error instanceof NobodyHere ? error.message : full;
    }
    this.keeping -= 1;
    if (refused !== null) this.tell({ settling: false, refused });
    else if (awaySince() !== null || isCoreReady()) await this.workOut();
    // The site was faster than this page's own disk: its answer has come, and settled nothing yet.
    else if ((await waitingIn(this.id)).length === 0) await this.fetch();
  }

  /** The core in this browser has started: what the site has not answered yet is worked out here. */
  async warmed(): Promise<void> {
    if (this.state.settling) await this.workOut();
  }

  clearRefused(): void {
    this.tell({ refused: null });
  }

  /** The site answered for this run, in whatever way: shown, unless this device knows more. */
  async answered(run: Run): Promise<void> {
    const turn = ++this.turn;
    this.answers += 1;
    const before = await keptRun(this.id);
    // The service worker may have answered with what it knew from before: what this device was told last is newer.
    const newest = before && before.run.lamport > run.lamport ? before.run : run;
    this.seen([newest.lamport]);
    if (newest === run) {
      // A device that is full keeps the run as it was before; what the site has is done all the same.
      await keepRun(run, null).catch(() => undefined);
      void this.keepWhatFolds(run);
    }
    if ((await this.own(newest)).length > 0) {
      if (awaySince() !== null || isCoreReady() || !this.state.run) await this.workOut();
      return;
    }
    if (turn === this.turn) this.tell({ run: newest, settling: false, alone: false });
    if (await this.isFromBefore(newest)) await this.fetch();
  }

  /** Whether the site has taken in something of this device since the desk stands that this answer does not have: it was on its way meanwhile. Once for each. */
  private async isFromBefore(run: Run): Promise<boolean> {
    if (run.finished_at) return false;
    const known = new Set([...run.events.map((event) => event.id), ...run.state.passed_over]);
    const sent = (await sentIn(this.id, this.since)).map(eventOf);
    const lacking = sent.filter((event) => !known.has(event.id) && !this.askedFor.has(event.id));
    for (const event of lacking) this.askedFor.add(event.id);
    return lacking.length > 0;
  }

  /** The site is there again: with nothing left to send, it is asked for the run. */
  private async cameBack(): Promise<void> {
    if ((await waitingIn(this.id)).length === 0) await this.fetch();
  }

  private async fetch(): Promise<void> {
    const asked = client.GET("/api/runs/{run_id}", {
      params: { path: { run_id: this.id } },
      cache: "no-store",
      signal: AbortSignal.timeout(8000),
    });
    await unwrap(asked).then(
      (run) => this.answered(run),
      (error: unknown) => (error instanceof Problem && error.isAway ? this.workOut() : this.tell({ settling: false })),
    );
  }

  /** The queue changed: something of this run was sent by another page, or refused. */
  private async changed(): Promise<void> {
    const now = (await waitingIn(this.id)).length;
    const fewer = now < this.unsent;
    this.unsent = now;
    if (fewer && now === 0 && awaySince() === null) {
      // Where this page sent it itself, the run comes with the answer.
      const seen = this.answers;
      await new Promise((passed) => setTimeout(passed, SOON_MS));
      if (this.answers === seen) await this.fetch();
    } else if (now > 0 && awaySince() !== null && !this.state.settling) await this.workOut();
  }

  /** What was done here and is not in the run yet. */
  private async own(run: Run): Promise<Schemas["EventOut"][]> {
    const known = new Set(run.events.map((event) => event.id));
    const waiting = await waitingIn(this.id);
    this.seen(waiting.map((item) => eventOf(item).lamport));
    return waiting
      .filter((item) => !known.has(item.id))
      .map((item) => ({
        ...eventOf(item),
        by: item.by,
        said_at: "",
        clock: "" as const,
        proof: item.signature ? ("key" as const) : ("" as const),
      }));
  }

  /** The run with everything that this device knows of it, by the core in this browser. */
  private async workOut(): Promise<void> {
    const known = await keptRun(this.id);
    if (!known?.pinned) {
      if (awaySince() !== null) this.tell({ settling: false });
      return;
    }
    const turn = ++this.turn;
    const own = await this.own(known.run);
    if (own.length === 0) {
      this.tell({ run: known.run, settling: false, alone: false });
      // What was done here may have reached the site while this was asked, and not be in the run that was kept before.
      if (await this.isFromBefore(known.run)) await this.fetch();
      return;
    }
    const events = [...known.run.events, ...own];
    // As it was last worked out, until the core has started.
    if (awaySince() !== null && known.alone?.events.length === events.length) this.tell({ run: known.alone });
    try {
      const state = await foldHere(known.pinned, events);
      this.seen(events.map((event) => event.lamport));
      // The site has answered meanwhile, or something else was done: that stands.
      if (turn !== this.turn) return;
      const folded = { ...known.run, events, state, lamport: this.lamport };
      this.tell({ run: folded, settling: false, alone: awaySince() !== null });
      await keepAlone(folded).catch(() => undefined);
    } catch (error) {
      if (turn !== this.turn) return;
      if (error instanceof Problem) this.tell({ settling: false, refused: error.detail });
      else this.laterAlone();
    }
  }

  /** The core could not be started here: it is tried again while the site is away. */
  private laterAlone(): void {
    if (awaySince() === null) return;
    this.tell({ settling: false });
    clearTimeout(this.again);
    this.again = setTimeout(() => void this.workOut(), AGAIN_MS);
  }

  /** What the fold here needs is fetched while the network is there, once, and again when something came in that it does not know. */
  private async keepWhatFolds(run: Run): Promise<void> {
    const before = await keptRun(this.id);
    if (before?.pinned && holdsAll(before.pinned, run)) return;
    const asked = client.GET("/api/runs/{run_id}/offline", { params: { path: { run_id: this.id } } });
    const pinned = await unwrap(asked).catch(() => null);
    const now = await keptRun(this.id);
    if (!pinned || !now) return;
    await keepRun(now.run, pinned).catch(() => undefined);
    // It may be the last thing that was lacking: the core has started, and the site has not answered what was done meanwhile.
    if (this.state.settling && isCoreReady()) await this.workOut();
  }

  /** What is done here next comes after everything that was ever shown here or waits, also where the page was loaded anew. */
  private seen(lamports: readonly number[]): void {
    this.lamport = Math.max(this.lamport, ...lamports);
  }

  private tell(change: Partial<DeskState>): void {
    if (change.run) this.seen([change.run.lamport]);
    this.state = { ...this.state, ...change };
    if (this.keeping > 0) this.state.settling = true;
    for (const tell of this.told) tell();
  }
}
