/** What the house's instruments show, as one stream for every view of this page. Framework-free; `useInstruments` is its hook. */

export interface Shown {
  instrument: string;
  kind: string;
  property: string | null;
  value: number | null;
  steady: boolean;
  checked: boolean;
  state: "live" | "lost";
  ignored: number;
}

const AGAIN_MS = 2000;
/** Watchers are called at most once in this time, with the newest readings: a busy page skips readings instead of falling behind. */
const TOGETHER_MS = 40;
/** A ticket is good for an hour: the next is fetched before that, and nothing is lost in between. */
const RENEW_MS = 50 * 60_000;

/** Listens while somebody watches; says that all are lost when the hub itself is away, and tries again. */
export class InstrumentStream {
  private source: EventSource | null = null;
  private again: ReturnType<typeof setTimeout> | undefined;
  private renewal: ReturnType<typeof setTimeout> | undefined;
  private telling: ReturnType<typeof setTimeout> | undefined;
  private readonly watching = new Set<() => void>();
  private shown: ReadonlyMap<string, Shown> = new Map();

  constructor(private readonly address: () => Promise<string>) {}

  readonly watch = (tell: () => void): (() => void) => {
    this.watching.add(tell);
    if (this.watching.size === 1) void this.open();
    return () => {
      this.watching.delete(tell);
      if (this.watching.size === 0) this.close();
    };
  };

  readonly now = (): ReadonlyMap<string, Shown> => this.shown;

  private async open(): Promise<void> {
    clearTimeout(this.again);
    try {
      const address = await this.address();
      if (this.watching.size === 0 || this.source) return;
      this.listen(address);
    } catch {
      this.retry();
    }
  }

  private listen(address: string): void {
    const source = new EventSource(address);
    this.source = source;
    source.onmessage = ({ data }: MessageEvent<string>) => this.take(JSON.parse(data) as Shown);
    source.onerror = () => this.retry();
    clearTimeout(this.renewal);
    this.renewal = setTimeout(() => void this.renew(), RENEW_MS);
  }

  /** Listens on with a new ticket, of whoever is here now. */
  async renew(): Promise<void> {
    if (!this.source) return;
    const before = this.source;
    try {
      const address = await this.address();
      // It was closed, or opened anew, while the ticket was fetched.
      if (this.source !== before) return;
      this.listen(address);
      before.onerror = null;
      before.close();
    } catch {
      this.retry();
    }
  }

  private take(shown: Shown): void {
    this.shown = new Map(this.shown).set(shown.instrument, shown);
    this.telling ??= setTimeout(() => this.tell(), TOGETHER_MS);
  }

  private tell(): void {
    clearTimeout(this.telling);
    this.telling = undefined;
    for (const tell of this.watching) tell();
  }

  /** A ticket may have run out, or the hub is gone: everything is lost until it is back. */
  private retry(): void {
    this.close();
    this.shown = new Map([...this.shown].map(([key, item]) => [key, { ...item, state: "lost" as const, steady: false }]));
    this.tell();
    if (this.watching.size > 0) this.again = setTimeout(() => void this.open(), AGAIN_MS);
  }

  private close(): void {
    clearTimeout(this.again);
    clearTimeout(this.renewal);
    this.source?.close();
    this.source = null;
  }
}
