import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { InstrumentStream } from "../src/instruments/stream";

class Source {
  static made: Source[] = [];
  onmessage: ((event: { data: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  closed = false;
  constructor(readonly address: string) {
    Source.made.push(this);
  }
  close() {
    this.closed = true;
  }
  says(value: number) {
    this.onmessage?.({
      data: JSON.stringify({
        instrument: "scale",
        kind: "scale",
        property: "mass_g",
        value,
        steady: true,
        checked: false,
        state: "live",
        ignored: 0,
      }),
    });
  }
}

describe("the stream of instruments", () => {
  beforeEach(() => {
    Source.made = [];
    vi.stubGlobal("EventSource", Source);
    vi.useFakeTimers();
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });
  const settled = () => vi.advanceTimersByTimeAsync(0);

  it("is one for all who watch, and closed when nobody does", async () => {
    const stream = new InstrumentStream(async () => "/stream");
    const first = stream.watch(() => undefined);
    const second = stream.watch(() => undefined);
    await settled();
    expect(Source.made).toHaveLength(1);
    first();
    expect(Source.made[0]?.closed).toBe(false);
    second();
    expect(Source.made[0]?.closed).toBe(true);
  });

  it("says that everything is lost when the hub is away, and comes back with a new ticket", async () => {
    let ticket = 0;
    const stream = new InstrumentStream(async () => `/stream?ticket=${++ticket}`);
    stream.watch(() => undefined);
    await settled();
    Source.made[0]?.says(612.4);
    expect(stream.now().get("scale")).toMatchObject({ value: 612.4, state: "live" });
    Source.made[0]?.onerror?.();
    expect(stream.now().get("scale")).toMatchObject({ state: "lost", steady: false });
    await vi.advanceTimersByTimeAsync(2000);
    expect(Source.made[1]?.address).toBe("/stream?ticket=2");
    Source.made[1]?.says(613);
    expect(stream.now().get("scale")).toMatchObject({ value: 613, state: "live" });
  });

  it("tells once of what comes at once, with the newest, and of a loss at once", async () => {
    const stream = new InstrumentStream(async () => "/stream");
    const told: (number | null | undefined)[] = [];
    stream.watch(() => told.push(stream.now().get("scale")?.value));
    await settled();
    for (let n = 1; n <= 100; n++) Source.made[0]?.says(n);
    await vi.advanceTimersByTimeAsync(50);
    expect(told).toEqual([100]);
    Source.made[0]?.says(101);
    Source.made[0]?.onerror?.();
    expect(told).toEqual([100, 101]);
    await vi.advanceTimersByTimeAsync(50);
    expect(told).toEqual([100, 101]);
  });

  it("asks again when the site itself cannot say where to listen", async () => {
    const address = vi.fn().mockRejectedValueOnce(new Error("away")).mockResolvedValue("/stream");
    new InstrumentStream(address).watch(() => undefined);
    await settled();
    expect(Source.made).toHaveLength(0);
    await vi.advanceTimersByTimeAsync(2000);
    expect(Source.made).toHaveLength(1);
  });

  it("listens on with a new ticket before the old one is over, and for whoever takes over, and loses nothing on the way", async () => {
    let ticket = 0;
    const stream = new InstrumentStream(async () => `/stream?ticket=${++ticket}`);
    const leave = stream.watch(() => undefined);
    await settled();
    Source.made[0]?.says(612);
    await vi.advanceTimersByTimeAsync(51 * 60_000);
    expect(Source.made.map((source) => [source.address, source.closed])).toEqual([
      ["/stream?ticket=1", true],
      ["/stream?ticket=2", false],
    ]);
    expect(stream.now().get("scale")).toMatchObject({ value: 612, state: "live" });
    await stream.renew();
    expect(Source.made.map((source) => source.closed)).toEqual([true, true, false]);
    leave();
    await stream.renew();
    expect(Source.made.map((source) => source.closed)).toEqual([true, true, true]);
  });
});
