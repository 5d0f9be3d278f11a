import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { client, Problem, type Schemas, told } from "../../api/client";
import { ask } from "../../api/queries";
import { useSession } from "../../app/session";
import { foldHere } from "../../offline/core";
import { drop, keepAlone, keepRun, keptRun, localMoment, makeEvent, put, type RunEvent, waiting } from "../../offline/outbox";

export type Run = Schemas["RunOut"];
export type Happened = readonly [kind: string, body: RunEvent["body"]];

const AGAIN_MS = 1500;
/** An answer that takes longer counts as none: the bench goes on by itself. */
const PATIENCE_MS = 6000;

export interface Bench {
  run: Run | null;
  error: unknown;
  /** Events on this device that the server does not have yet. */
  unsent: number;
  /** Worked out here, because the server is away. */
  alone: boolean;
  /** What was just done is not yet worked out: what stands on the screen is from before it, and must not be acted on. */
  settling: boolean;
  /** What the server refused, in words. */
  refused: string | null;
  signedOut: boolean;
  clearRefused: () => void;
  record: (...happened: Happened[]) => Promise<void>;
}

const isOver = (error: unknown) => error instanceof Problem && error.status >= 400 && error.status < 500 && error.status !== 401;

/** Whether what this device keeps to fold with holds every material that is in the run by now: a jar that nobody planned brings its own. */
const holdsAll = (pinned: Schemas["OfflineOut"], run: Run) =>
  run.state.steps.flatMap((step) => step.lines).every(({ material }) => material.includes(":") || material in pinned.materials);

/** A run and its outbox: everything that happens is kept here first, then sent, and sent again until it is acknowledged. While the server is away the
 * run is folded in this browser, by the same core. */
export function useBench(id: string): Bench {
  const queries = useQueryClient();
  const session = useSession();
  const asked = useQuery({ ...ask.run(id), retry: (count, error) => error instanceof Problem && error.isAway && count < 1 });
  const [unsent, setUnsent] = useState(0);
  const [refused, setRefused] = useState<string | null>(null);
  const [signedOut, setSignedOut] = useState(false);
  const [alone, setAlone] = useState(false);
  const [settling, setSettling] = useState(false);
  const busy = useRef(false);
  const again = useRef<ReturnType<typeof setTimeout>>(undefined);
  const lamport = useRef(0);
  const away = useRef(false);
  if (asked.data) lamport.current = Math.max(lamport.current, asked.data.lamport);

  const show = useCallback(
    (run: Run) => {
      const { queryKey } = ask.run(id);
      // What was asked before is older than this, however late it is answered.
      void queries.cancelQueries({ queryKey });
      queries.setQueryData(queryKey, run);
    },
    [id, queries],
  );

  /** The run with everything that this device knows of it, worked out here. */
  const goAlone = useCallback(async () => {
    const known = await keptRun(id);
    if (!known?.pinned) return;
    const sent = new Set(known.run.events.map((event) => event.id));
    const own = (await waiting(id))
      .map((item) => ({ ...item.event, by: session.name, said_at: "", clock: "" as const }))
      .filter((event) => !sent.has(event.id));
    try {
      const events = [...known.run.events, ...own];
      // As it was last worked out, until the core has started.
      if (known.alone && known.alone.events.length === events.length) show(known.alone);
      const state = await foldHere(known.pinned, events);
      lamport.current = Math.max(lamport.current, ...events.map((event) => event.lamport));
      // The server may be back by now: what it says stands.
      if (!away.current) return;
      const folded = { ...known.run, events, state, lamport: lamport.current };
      show(folded);
      setAlone(true);
      await keepAlone(folded);
    } catch (error) {
      if (error instanceof Problem) setRefused(error.detail);
    }
  }, [id, session.name, show]);

  /** What the fold here needs is fetched while the network is there, once, and again when something came in that it does not know. */
  const keepWhatFolds = useCallback(
    async (run: Run) => {
      const before = await keptRun(id);
      if (before?.pinned && holdsAll(before.pinned, run)) return;
      const pinned = await told(client.GET("/api/runs/{run_id}/offline", { params: { path: { run_id: id } } })).catch(() => null);
      const now = await keptRun(id);
      if (pinned && now) await keepRun(now.run, pinned);
    },
    [id],
  );

  /** With nothing left to send, the server is asked whether it is there again. */
  const comeBack = useCallback(async () => {
    const run = await told(
      client.GET("/api/runs/{run_id}", { params: { path: { run_id: id } }, cache: "no-store", signal: AbortSignal.timeout(PATIENCE_MS) }),
    );
    const before = await keptRun(id);
    if ((before?.run.lamport ?? -1) > run.lamport) throw new Problem(0, "An answer kept from before.", "", "away");
    away.current = false;
    setAlone(false);
    show(run);
  }, [id, show]);

  const drain = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    clearTimeout(again.current);
    try {
      for (;;) {
        const items = await waiting(id);
        setUnsent(items.length);
        const first = items[0];
        if (!first) {
          if (away.current) await comeBack();
          break;
        }
        // One at a time: an event that is refused must not take the others with it.
        const answer = await told(
          client.POST("/api/runs/{run_id}/events", {
            params: { path: { run_id: id } },
            body: { events: [first.event], now: localMoment() },
            signal: AbortSignal.timeout(PATIENCE_MS),
          }),
        );
        away.current = false;
        // A device that is full keeps the run as it was before; what the server has acknowledged is done all the same.
        await keepRun(answer, null).catch(() => undefined);
        await drop([first]);
        void keepWhatFolds(answer);
        setSignedOut(false);
        // While more wait, what was worked out here with all of them stays on the screen.
        if (items.length === 1) {
          setAlone(false);
          show(answer);
        }
        void queries.invalidateQueries({ queryKey: ["runs"] });
      }
    } catch (error) {
      if (isOver(error)) {
        const [first] = await waiting(id);
        if (first) await drop([first]);
        setRefused((error as Problem).detail);
        void queries.invalidateQueries({ queryKey: ask.run(id).queryKey });
        again.current = setTimeout(() => void drain(), 0);
      } else {
        setSignedOut(error instanceof Problem && error.status === 401);
        away.current = true;
        again.current = setTimeout(() => void drain(), AGAIN_MS);
        // The core may take a while to start here; the server is asked again meanwhile.
        void goAlone().finally(() => setSettling(false));
      }
    } finally {
      busy.current = false;
      if (!away.current) setSettling(false);
    }
  }, [id, queries, goAlone, comeBack, show, keepWhatFolds]);

  useEffect(() => {
    void drain();
    return () => clearTimeout(again.current);
  }, [drain]);

  const unreachable = asked.error instanceof Problem && asked.error.isAway;
  useEffect(() => {
    if (!unreachable) return;
    away.current = true;
    void goAlone();
    void drain();
  }, [unreachable, goAlone, drain]);

  const known = asked.data !== undefined && !alone;
  useEffect(() => {
    if (!known) return;
    const run = queries.getQueryData<Run>(ask.run(id).queryKey);
    if (!run) return;
    void keptRun(id).then(async (before) => {
      if (before && before.run.lamport > run.lamport) {
        // The service worker answered with what it knew from before: what this device was told last is newer.
        away.current = true;
        show(before.run);
        void drain();
      } else {
        await keepRun(run, null);
        await keepWhatFolds(run);
      }
    });
  }, [known, id, queries, show, drain, keepWhatFolds]);

  const record = useCallback(
    async (...happened: Happened[]) => {
      setRefused(null);
      setSettling(true);
      const events = happened.map(([kind, body]) => {
        lamport.current += 1;
        return makeEvent(kind, body, lamport.current);
      });
      try {
        await put(id, events);
      } catch {
        setSettling(false);
        setRefused("This device has no room left to keep that, so it does not count. Free some room on it, or go on with another device.");
        return;
      }
      setUnsent((count) => count + events.length);
      // While it waits for the server to come back, what was just done is worked out here at once.
      if (alone) {
        await goAlone();
        setSettling(false);
      }
      await drain();
    },
    [id, drain, alone, goAlone],
  );
  return {
    run: asked.data ?? null,
    error: asked.error,
    unsent,
    alone,
    settling,
    refused,
    signedOut,
    clearRefused: () => setRefused(null),
    record,
  };
}
