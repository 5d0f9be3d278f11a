import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useSyncExternalStore } from "react";
import { Problem } from "../../../api/client";
import { ask } from "../../../api/queries";
import { sender } from "../../../session/sender";
import type { Happening } from "../../../sync/event";
import { type Run, RunDesk } from "../../../sync/runDesk";
import { useDesk } from "../../../sync/useDesk";
import { happeningWords } from "./eventWords";

export type { Happening } from "../../../sync/event";
export type { Run } from "../../../sync/runDesk";

/** The page stands first; then the core is fetched and started, so that what is weighed is worked out at once. */
const WARM_MS = 2500;

export interface Bench {
  run: Run | null;
  error: unknown;
  /** What was just done is not yet worked out: what stands on the screen is from before it, and must not be acted on. */
  settling: boolean;
  /** Worked out here, because the site is away. */
  alone: boolean;
  /** What could not be kept, in words. */
  refused: string | null;
  clearRefused: () => void;
  record: (...happened: Happening[]) => Promise<void>;
}

const wordsOf = (run: Run | null, item: Happening) => (run ? happeningWords(run, item) : item[0].replaceAll("_", " "));

/** A run at this device, with what was done here: a thin hook over `RunDesk`. */
export function useBench(id: string): Bench {
  const queries = useQueryClient();
  const asked = useQuery({ ...ask.run(id), retry: (count, error) => error instanceof Problem && error.isAway && count < 1 });
  const desk = useMemo(() => new RunDesk(id, sender), [id]);
  useDesk(desk, WARM_MS);
  const { dataUpdatedAt, data } = asked;
  // Every answer of the site's own is weighed against what this device knows.
  useEffect(() => {
    if (data && dataUpdatedAt) void desk.answered(data);
  }, [desk, data, dataUpdatedAt]);
  const state = useSyncExternalStore(desk.watch, desk.now);
  // Lists of batches show the step at hand.
  const at = state.run?.lamport;
  useEffect(() => {
    if (at !== undefined) void queries.invalidateQueries({ queryKey: ["runs"] });
  }, [queries, at]);
  return {
    error: asked.error,
    ...state,
    clearRefused: () => desk.clearRefused(),
    record: (...happened) => desk.record(happened, (item) => wordsOf(state.run, item)),
  };
}
