import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { client, Problem, type Schemas, type SpecFile, unwrap } from "../../api/client";
import { ask } from "../../api/queries";
import { useSession } from "../../app/session";
import { forget, keep, keepSteps, kept, keptSteps, writer } from "../../sync/journal";

export type Result = Schemas["Workbench"];
export type SaveState =
  | { status: "saved"; at: string; by: string }
  | { status: "saving" }
  | { status: "kept" }
  | { status: "conflict"; text: string }
  | { status: "refused"; text: string };

const AGAIN_MS = 2000;

export interface DraftHandle {
  body: SpecFile;
  result: Result;
  revision: number;
  version: number | null;
  pins: readonly Schemas["Pin"][];
  /** Drafts that lost a conflict, kept beside this one. */
  beside: readonly Schemas["SideDraftOut"][];
  /** What the spec is beside others: a trial of which, a variant of which. */
  about: { state: string; trial_of: string; base: string };
  save: SaveState;
  edit: (change: (body: SpecFile) => SpecFile) => void;
  undo: () => void;
  redo: () => void;
  /** Waits until the server has everything. */
  settled: () => Promise<number>;
}

/** The draft of a spec: edited here at once, kept on this device at every keystroke, saved and worked out by the server. */
export function useDraft(spec: string): { draft: DraftHandle | null; error: unknown } {
  const queries = useQueryClient();
  // What is kept on a shared device is its person's own.
  const mine = `${useSession().person}.${spec}`;
  const loaded = useQuery(ask.draft(spec));
  const [body, setBody] = useState<SpecFile | null>(null);
  const [result, setResult] = useState<Result | null>(null);
  const [save, setSave] = useState<SaveState>({ status: "saving" });
  const [revision, setRevision] = useState(0);
  const [beside, setBeside] = useState<readonly Schemas["SideDraftOut"][]>([]);
  const now = useRef<{ body: SpecFile | null; revision: number; dirty: boolean; busy: boolean; stuck: boolean }>({
    body: null,
    revision: 0,
    dirty: false,
    busy: false,
    stuck: false,
  });
  const past = useRef<SpecFile[]>([]);
  const future = useRef<SpecFile[]>([]);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  const send = useCallback(async () => {
    const state = now.current;
    if (state.busy || !state.dirty || !state.body || state.stuck) return;
    state.busy = true;
    state.dirty = false;
    setSave({ status: "saving" });
    try {
      const saved = await unwrap(
        client.PUT("/api/specs/{spec_id}/draft", {
          params: { path: { spec_id: spec }, header: { "If-Match": `"${state.revision}"` } },
          body: { spec: state.body as unknown as Record<string, unknown>, writer: writer() },
        }),
      );
      state.revision = saved.revision;
      setRevision(saved.revision);
      setResult(saved.result);
      setBeside(saved.beside);
      keepSteps(mine, { past: past.current, future: future.current, revision: saved.revision });
      if (state.dirty) keep(mine, { body: state.body, revision: saved.revision, at: Date.now() });
      else {
        forget(mine);
        setSave({ status: "saved", at: saved.saved_at, by: "you" });
        void queries.invalidateQueries({ queryKey: ["specs"] });
      }
    } catch (error) {
      const problem = error instanceof Problem ? error : null;
      if (problem?.code === "conflict") {
        state.stuck = true;
        forget(mine);
        setSave({ status: "conflict", text: problem.detail });
      } else if (problem && problem.status >= 400 && problem.status < 500 && problem.status !== 401) {
        setSave({ status: "refused", text: problem.detail });
      } else {
        state.dirty = true;
        setSave({ status: "kept" });
        clearTimeout(timer.current);
        timer.current = setTimeout(() => void send(), AGAIN_MS);
      }
    } finally {
      state.busy = false;
    }
    if (state.dirty && !state.stuck && !timer.current) void send();
  }, [spec, mine, queries]);

  const put = useCallback(
    (next: SpecFile) => {
      const state = now.current;
      state.body = next;
      state.dirty = true;
      setBody(next);
      keep(mine, { body: next, revision: state.revision, at: Date.now() });
      keepSteps(mine, { past: past.current, future: future.current, revision: state.revision });
      clearTimeout(timer.current);
      timer.current = undefined;
      // At once: what is typed while an answer is under way goes with the next save.
      void send();
    },
    [mine, send],
  );

  useEffect(() => {
    const data = loaded.data;
    if (!data || now.current.body) return;
    const own = kept<SpecFile>(mine);
    now.current.revision = own ? own.revision : data.revision;
    const steps = keptSteps<SpecFile>(mine, now.current.revision);
    past.current = steps.past;
    future.current = steps.future;
    setRevision(data.revision);
    setResult(data.result);
    setBeside(data.beside);
    if (own) {
      put(own.body);
    } else {
      const fresh = data.body as unknown as SpecFile;
      now.current.body = fresh;
      setBody(fresh);
      setSave({ status: "saved", at: data.saved_at, by: data.saved_by });
    }
  }, [loaded.data, mine, put]);

  useEffect(() => () => clearTimeout(timer.current), []);

  const edit = useCallback(
    (change: (body: SpecFile) => SpecFile) => {
      const before = now.current.body;
      if (!before || now.current.stuck) return;
      past.current.push(before);
      future.current = [];
      put(change(before));
    },
    [put],
  );
  const step = useCallback(
    (from: SpecFile[], to: SpecFile[]) => {
      const next = from.pop();
      if (!next || !now.current.body) return;
      to.push(now.current.body);
      put(next);
    },
    [put],
  );
  const settled = useCallback(async () => {
    for (let round = 0; round < 100 && (now.current.dirty || now.current.busy) && !now.current.stuck; round += 1) {
      await send();
      await new Promise((done) => setTimeout(done, 50));
    }
    return now.current.revision;
  }, [send]);

  if (!body || !result || !loaded.data) return { draft: null, error: loaded.error };
  const { version, pins, state, trial_of, base } = loaded.data;
  const undo = () => step(past.current, future.current);
  const redo = () => step(future.current, past.current);
  return {
    draft: { body, result, revision, version, pins, beside, about: { state, trial_of, base }, save, edit, undo, redo, settled },
    error: null,
  };
}
