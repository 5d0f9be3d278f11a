import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { Problem, type Schemas, type SpecFile } from "../../../api/client";
import { ask } from "../../../api/queries";
import { useSession } from "../../../session/session";
import { answersHere, basisHere, draftHere, follow } from "../../../sync/core";
import { DraftDesk, type OpenDraft, type SaveState } from "../../../sync/draftDesk";
import { useDesk } from "../../../sync/useDesk";

export type Result = Schemas["Workbench"];
export type { SaveState };

/** The page stands first; then the core is fetched and started, so that edits are worked out where the hand is. */
const WARM_MS = 600;
const CORE = { answersHere, basisHere, draftHere, follow };

export interface DraftHandle extends OpenDraft {
  revision: number;
  edit: (change: (body: SpecFile) => SpecFile) => void;
  undo: () => void;
  redo: () => void;
  /** Works out a body that is only tried; null when nothing is tried any more. */
  tries: (body: SpecFile | null) => void;
  /** Waits until the server has everything. */
  settled: () => Promise<number>;
}

/** The draft of a spec at this device, and the question to the site that it came from: a thin hook over `DraftDesk`. */
export function useDraft(spec: string) {
  const queries = useQueryClient();
  const { person } = useSession();
  const desk = useMemo(
    () => new DraftDesk(spec, `${person}.${spec}`, CORE, () => void queries.invalidateQueries({ queryKey: ["specs"] })),
    [spec, person, queries],
  );
  const loaded = useQuery({ ...ask.draft(spec), retry: (count, error) => error instanceof Problem && error.isAway && count < 1 });
  const [unknown, setUnknown] = useState<unknown>(null);
  useDesk(desk, WARM_MS);
  const { data, error } = loaded;
  useEffect(() => {
    if (data) void desk.answered(data);
  }, [desk, data]);
  useEffect(() => {
    if (error) void desk.unanswered().then((kept) => setUnknown(kept ? null : error));
  }, [desk, error]);
  const state = useSyncExternalStore(desk.watch, desk.now);
  const acts = useMemo(
    () => ({
      edit: (change: (body: SpecFile) => SpecFile) => desk.edit(change),
      undo: () => desk.undo(),
      redo: () => desk.redo(),
      tries: (body: SpecFile | null) => void desk.tries(body),
      settled: () => desk.settled(),
    }),
    [desk],
  );
  const draft: DraftHandle | null = useMemo(() => state && { ...state, revision: state.known.revision, ...acts }, [state, acts]);
  return { draft, question: { error: draft ? null : unknown, isFetching: loaded.isFetching, refetch: loaded.refetch } };
}
