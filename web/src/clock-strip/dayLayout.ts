/** The geometry of a day's list on the clock strip: a lane for each person, and lanes in which batches wait. */

interface DayHands {
  who: string;
  from: number;
  until: number;
}

export interface DayBatch {
  id: string;
  name: string;
  colour: string;
  ready: number;
  hands: readonly DayHands[];
}

export interface Wait {
  id: string;
  name: string;
  colour: string;
  from: number;
  until: number;
}

const HOUR = 3_600_000;
const LONG = 12;

/** Every time at which a batch waits without hands, from one to the next and from the last until it pours. */
export function waitsOf(batches: readonly DayBatch[]): Wait[] {
  return batches.flatMap((batch) =>
    batch.hands.flatMap((part, n) => {
      const until = batch.hands[n + 1]?.from ?? batch.ready;
      return until - part.until > HOUR / LONG
        ? [{ id: `${batch.id} ${n}`, name: batch.name, colour: batch.colour, from: part.until, until }]
        : [];
    }),
  );
}

/** Waits in as few lanes as they fit without touching, the first to begin first. */
export function packed(waits: readonly Wait[]): Wait[][] {
  const lanes: Wait[][] = [];
  for (const wait of [...waits].sort((one, other) => one.from - other.from)) {
    const free = lanes.find((lane) => (lane.at(-1)?.until ?? 0) <= wait.from);
    if (free) free.push(wait);
    else lanes.push([wait]);
  }
  return lanes;
}

/** The part of something that lies within a span, as shares of it; null for what lies outside. */
export function within(span: { from: number; to: number }, from: number, until: number): { x: number; width: number } | null {
  const begins = Math.max(span.from, from);
  const ends = Math.min(span.to, until);
  return ends > begins ? { x: (begins - span.from) / (span.to - span.from), width: (ends - begins) / (span.to - span.from) } : null;
}

/** What the strip shows: an hour back, and a day and a bit ahead; figures every so many hours. */
export function daySpan(now: number): { from: number; to: number; hours: number[] } {
  const from = Math.floor((now - HOUR) / HOUR) * HOUR;
  const to = from + 26 * HOUR;
  return { from, to, hours: [...Array(14).keys()].map((n) => from + 2 * n * HOUR).filter((at) => at <= to) };
}
