/**
 * One draft at this device: edited here at once, worked out by the core here where that gives what the site would, kept at every keystroke, and saved behind.
 * Framework-free; `useDraft` is its hook.
 */

import { replaceEqualDeep } from "@tanstack/react-query";
import { client, Problem, type Schemas, type SpecFile, unwrap } from "../api/client";
import { onReach } from "../api/reach";
import { keepDraft, keptDraft } from "./drafts";
import { forget, keep, keepSteps, kept, keptSteps, writer } from "./journal";
import { difference, type PlainFlow, type Workbench, withPlain } from "./workbench";

export type SaveState =
  | { status: "saved"; at: string; by: string }
  | { status: "saving" }
  | { status: "kept" }
  | { status: "conflict"; text: string }
  | { status: "refused"; text: string };

type Draft = Schemas["DraftOut"];

export interface OpenDraft {
  body: SpecFile;
  result: Workbench;
  /** Ranges, keeping, hazards and cost in `result` are still those from before the last edit. */
  pending: boolean;
  /** Edits are worked out by the core here. */
  here: boolean;
  /** What is tried without being kept; null while nothing is. */
  tried: Workbench | null;
  save: SaveState;
  /** The draft as the site last had it. */
  known: Draft;
}

/** The core in this browser, as the desk asks it. */
export interface Core {
  answersHere: () => boolean;
  /** What the core here evaluates with; null while it does not answer. */
  basisHere: () => Schemas["Basis"] | null;
  follow: (basis: Schemas["Basis"]) => Promise<void>;
  draftHere: (body: SpecFile, madeWithIt: readonly string[], tell: (plain: PlainFlow) => void) => Promise<Workbench | null>;
}

const AGAIN_MS = 2000;
/** How long the hand rests before the site is sent what was typed, where the core here has answered it already. */
const REST_MS = 350;
const STEPS_MS = 250;
const MOST_DIFFERENCE = 400;

const asSent = (body: SpecFile) => body as unknown as Record<string, unknown>;

export class DraftDesk {
  private state: OpenDraft | null = null;
  private readonly told = new Set<() => void>();
  private past: SpecFile[] = [];
  private future: SpecFile[] = [];
  private dirty = false;
  private busy = false;
  private stuck = false;
  private differed = "";
  private turn = 0;
  private tryTurn = 0;
  /** What the core here made of a body, whole, and with what: compared with what the site says of the same. */
  private here: { body: SpecFile; whole: Workbench; basis: Schemas["Basis"] | null } | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private stepsTimer: ReturnType<typeof setTimeout> | undefined;
  private stopReach: () => void = () => undefined;

  /** `mine` names the draft in what this device keeps: what is kept on a shared device is its person's own. */
  constructor(
    private readonly spec: string,
    private readonly mine: string,
    private readonly core: Core,
    private readonly saved: () => void = () => undefined,
  ) {}

  readonly now = (): OpenDraft | null => this.state;
  readonly watch = (tell: () => void): (() => void) => {
    this.told.add(tell);
    return () => this.told.delete(tell);
  };

  start(): void {
    const stopReach = onReach(() => void this.send());
    // A page that is left or reloaded at once has its undo all the same.
    const leaves = () => this.keepUndo();
    globalThis.addEventListener?.("pagehide", leaves);
    this.stopReach = () => {
      stopReach();
      globalThis.removeEventListener?.("pagehide", leaves);
    };
    if (this.dirty) void this.send();
  }

  stop(): void {
    this.stopReach();
    clearTimeout(this.timer);
    this.keepUndo();
  }

  /** The site answered with the draft, or the service worker with an answer from before: this device may know a newer one. */
  async answered(draft: Draft): Promise<void> {
    const before = await keptDraft(this.mine).catch(() => undefined);
    await this.open(before && before.revision > draft.revision ? before : draft);
  }

  /** The site did not answer: what this device keeps is opened. Resolves to whether it keeps anything. */
  async unanswered(): Promise<boolean> {
    const before = await keptDraft(this.mine).catch(() => undefined);
    if (before) await this.open(before);
    return before !== undefined;
  }

  private async open(draft: Draft): Promise<void> {
    if (this.state) {
      if (!this.dirty && !this.busy)
        this.tell({ known: { ...draft, revision: this.state.known.revision, beside: this.state.known.beside } });
      return;
    }
    const own = kept<SpecFile>(this.mine);
    const revision = own ? own.revision : draft.revision;
    const { past, future } = keptSteps<SpecFile>(this.mine, revision);
    [this.past, this.future] = [past, future];
    const save: SaveState = own ? { status: "kept" } : { status: "saved", at: draft.saved_at, by: draft.saved_by };
    const body = draft.body;
    const known = { ...draft, revision };
    this.state = { body, result: draft.result, pending: own !== null, here: false, tried: null, save, known };
    void this.core.follow(draft.basis).then(
      () => this.tell({}),
      () => undefined,
    );
    if (own) this.put(own.body);
    else {
      this.tell({});
      void keepDraft(this.mine, draft).catch(() => undefined);
    }
  }

  edit(change: (body: SpecFile) => SpecFile): void {
    if (!this.state || this.stuck) return;
    this.past.push(this.state.body);
    this.future = [];
    this.put(change(this.state.body));
  }

  undo(): void {
    this.step(this.past, this.future);
  }

  redo(): void {
    this.step(this.future, this.past);
  }

  private step(from: SpecFile[], to: SpecFile[]): void {
    const next = from.pop();
    if (!next || !this.state) return;
    to.push(this.state.body);
    this.put(next);
  }

  /** Waits until the site has everything. Resolves to the draft's revision there. */
  async settled(): Promise<number> {
    for (let round = 0; round < 100 && (this.dirty || this.busy) && !this.stuck; round += 1) {
      await this.send();
      await new Promise((done) => setTimeout(done, 50));
    }
    return this.state?.known.revision ?? 0;
  }

  /** The core here answers from now on: what was typed without it is worked out. */
  warmed(): void {
    this.tell({});
    if (this.state?.pending && this.core.answersHere()) void this.workOutHere(this.state.body);
  }

  /** Works out a body that is only tried; null when nothing is tried any more. */
  async tries(body: SpecFile | null): Promise<void> {
    this.tryTurn += 1;
    const mine = this.tryTurn;
    if (body === null) {
      this.tell({ tried: null });
      return;
    }
    const show = (found: (before: Workbench) => Workbench) => {
      if (!this.state || mine !== this.tryTurn) return;
      const before = this.state.tried ?? this.state.result;
      this.tell({ tried: replaceEqualDeep(before, found(before)) });
    };
    const plainly = (plain: PlainFlow) => show((before) => withPlain(before, plain));
    const here = () => this.core.draftHere(body, [], plainly);
    const site = () => unwrap(client.POST("/api/evaluate", { body: { spec: asSent(body) } }));
    const whole = await (this.core.answersHere() ? here() : site()).catch(() => null);
    if (whole) show(() => whole);
  }

  private put(body: SpecFile): void {
    this.dirty = true;
    clearTimeout(this.timer);
    this.timer = undefined;
    const here = this.core.answersHere();
    if (here) {
      void this.workOutHere(body);
      this.timer = setTimeout(() => void this.send(), REST_MS);
    }
    const { save } = this.state ?? {};
    this.tell({ body, save: save?.status === "saved" || !save ? { status: "saving" } : save });
    this.keepTyped();
    // At once: what is typed while an answer is under way goes with the next save.
    if (!here) void this.send();
  }

  /** The text is kept at every keystroke; what undo goes back to, which is many times as much, once the hand rests. */
  private keepTyped(): void {
    if (!this.state) return;
    const { body, known } = this.state;
    keep(this.mine, { body, revision: known.revision, at: Date.now() });
    clearTimeout(this.stepsTimer);
    this.stepsTimer = setTimeout(() => this.keepUndo(), STEPS_MS);
  }

  private keepUndo(): void {
    clearTimeout(this.stepsTimer);
    if (this.state) keepSteps(this.mine, { past: this.past, future: this.future, revision: this.state.known.revision });
  }

  private async workOutHere(body: SpecFile): Promise<void> {
    this.turn += 1;
    const mine = this.turn;
    const show = (found: (before: Workbench) => Workbench, pending: boolean) => {
      if (this.state && mine === this.turn) this.tell({ result: replaceEqualDeep(this.state.result, found(this.state.result)), pending });
    };
    try {
      const madeWithIt = this.state?.known.made_with_it ?? [];
      const whole = await this.core.draftHere(body, madeWithIt, (plain) => show((before) => withPlain(before, plain), true));
      if (!whole) return;
      this.here = { body, whole, basis: this.core.basisHere() };
      // Only the site knows the house's other specs: what it said of them last stands until it says it anew.
      show(({ by_others }) => ({ ...whole, by_others }), false);
    } catch {
      // What the core here refuses or cannot do, the site is asked.
      if (mine === this.turn) void this.send();
    }
  }

  private async send(): Promise<void> {
    const { state } = this;
    if (!state || this.busy || !this.dirty || this.stuck) return;
    this.busy = true;
    this.dirty = false;
    clearTimeout(this.timer);
    this.timer = undefined;
    // While the site is away it is tried again and again, and what is said of it stays.
    if (state.save.status !== "kept") this.tell({ save: { status: "saving" } });
    const { body } = state;
    const sent = { spec: asSent(body), writer: writer(), differed: this.differed };
    try {
      const params = { path: { spec_id: this.spec }, header: { "If-Match": `"${state.known.revision}"` } };
      const answer = await unwrap(client.PUT("/api/specs/{spec_id}/draft", { params, body: sent }));
      this.differed = "";
      await this.hasSaved(body, answer);
    } catch (error) {
      this.hasNotSaved(error);
    } finally {
      this.busy = false;
    }
    if (this.dirty && !this.stuck && !this.timer) void this.send();
  }

  private async hasSaved(body: SpecFile, answer: Schemas["SavedOut"]): Promise<void> {
    if (!this.state) return;
    const { revision, beside, saved_at, basis, made_with_it, result } = answer;
    const here = this.core.answersHere();
    await this.core.follow(basis).catch(() => undefined);
    const known: Draft = {
      ...this.state.known,
      revision,
      beside,
      saved_at,
      saved_by: "you",
      basis,
      made_with_it,
      result,
      body,
    };
    this.tell({ known });
    if (this.state.body === body) this.compare(answer, body);
    else if (!here) this.tell({ result: replaceEqualDeep(this.state.result, result) });
    if (this.dirty) this.keepTyped();
    else {
      forget(this.mine);
      this.keepUndo();
      this.tell({ save: { status: "saved", at: saved_at, by: "you" } });
      this.saved();
    }
    await keepDraft(this.mine, known).catch(() => undefined);
  }

  /** What the site says stands. Where the core here said otherwise with the same house, the site is told so with the next save. */
  private compare({ result, basis }: Schemas["SavedOut"], body: SpecFile): void {
    if (!this.state) return;
    if (this.here?.body === body && this.here.basis?.core === basis.core && this.here.basis.bundle === basis.bundle) {
      const found = difference({ ...this.here.whole, by_others: result.by_others }, result);
      if (found) {
        this.differed = found.slice(0, MOST_DIFFERENCE);
        // biome-ignore lint/suspicious/noConsole: a fault of ours, which nobody at the bench can do anything about
        console.error(`The core in this browser differs from the site's: ${found}`);
      }
    }
    this.turn += 1;
    this.tell({ result: replaceEqualDeep(this.state.result, result), pending: false });
  }

  private hasNotSaved(error: unknown): void {
    const problem = error instanceof Problem ? error : null;
    if (problem?.code === "conflict") {
      this.stuck = true;
      forget(this.mine);
      this.tell({ save: { status: "conflict", text: problem.detail } });
    } else if (problem && problem.status >= 400 && problem.status < 500 && problem.status !== 401) {
      this.tell({ save: { status: "refused", text: problem.detail } });
    } else {
      this.dirty = true;
      this.tell({ save: { status: "kept" } });
      clearTimeout(this.timer);
      this.timer = setTimeout(() => void this.send(), AGAIN_MS);
      // The site is away: what was typed since the core here last answered is worked out by it.
      if (this.state && this.here?.body !== this.state.body && this.core.answersHere()) void this.workOutHere(this.state.body);
    }
  }

  private tell(change: Partial<OpenDraft>): void {
    if (this.state) this.state = { ...this.state, here: this.core.answersHere(), ...change };
    for (const tell of this.told) tell();
  }
}
