import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";
import { stillToDo } from "./asked";
import { Questions } from "./Questions";

/** What this reader has still to do with it: acknowledge a critical change, answer its questions. */
export function BeforeMaking({ spec, number }: { spec: string; number: number }) {
  const queries = useQueryClient();
  const session = useSession();
  const state = useQuery(ask.reading(spec, number));
  const [asking, setAsking] = useState(false);
  const read = useMutation({
    mutationFn: () =>
      unwrap(client.POST("/api/specs/{spec_id}/versions/{number}/acknowledge", { params: { path: { spec_id: spec, number } } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ask.reading(spec, number).queryKey }),
  });
  const found = state.data;
  if (!found) return null;
  const still = stillToDo(found, session.role);
  return (
    <>
      {still.acknowledge ? (
        <div className="tray mb-3 flex flex-wrap items-center justify-between gap-3 p-4">
          <p>
            <b>A critical change.</b> Read the card, then say so; it is asked once.
          </p>
          <Button look="main" onClick={() => read.mutate()} disabled={read.isPending}>
            I have read it
          </Button>
        </div>
      ) : null}
      {still.answer ? (
        <div className="tray mb-3 flex flex-wrap items-center justify-between gap-3 p-4">
          <p>
            <b>Your first make of it.</b> Three questions, out of this card.
          </p>
          <Button look="main" onClick={() => setAsking(true)}>
            Answer them
          </Button>
        </div>
      ) : null}
      <Trouble error={read.error} />
      <Questions spec={spec} number={number} questions={found.questions} open={asking} onClose={() => setAsking(false)} />
    </>
  );
}
