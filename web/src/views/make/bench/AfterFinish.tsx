import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, expectOk, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { canLead, canMake, useSession } from "../../../session/session";
import { RunLabels } from "../run/RunLabels";
import type { Run } from "../run/useBench";
import { Lessons } from "../sheets/FinishSheet";

/** A finished batch: all labels in one print, what it taught, and what it settled for the next version. */
export function AfterFinish({ run }: { run: Run }) {
  const session = useSession();
  const take = useMutation({
    mutationFn: () => unwrap(client.POST("/api/runs/{run_id}/into-draft", { params: { path: { run_id: run.id } } })),
  });
  return (
    <div className="grid gap-4">
      <RunLabels run={run.id} may={canMake(session)} />
      <Lessons lessons={run.state.lessons} />
      {run.state.settled.length ? (
        <div className="rounded-[14px] bg-quiet p-4 text-[18px]">
          <p className="font-bold">Settled by taste</p>
          <ul className="list-disc pl-5">
            {run.state.settled.map((item) => (
              <li key={item.text}>{item.text}</li>
            ))}
          </ul>
          {take.data ? (
            <Link to={`/specs/${take.data.spec}`} className="inline-flex min-h-11 items-center font-semibold text-rim underline">
              It stands in the draft
            </Link>
          ) : canLead(session) ? (
            <Button className="mt-2" onClick={() => take.mutate()} disabled={take.isPending}>
              Take it into the draft
            </Button>
          ) : null}
          <Trouble error={take.error} />
        </div>
      ) : null}
    </div>
  );
}

/** How a rehearsal went, and whether the house may see it. */
export function RehearsalScore({ run }: { run: Run }) {
  const session = useSession();
  const queries = useQueryClient();
  const share = useMutation({
    mutationFn: () => expectOk(client.POST("/api/runs/{run_id}/share", { params: { path: { run_id: run.id } } })),
    onSettled: () => void queries.invalidateQueries({ queryKey: ask.run(run.id).queryKey }),
  });
  return (
    <div className="grid gap-3 text-[20px]">
      {run.score?.told.map((text) => (
        <p key={text}>{text}</p>
      ))}
      {run.shared ? (
        <p className="text-soft">The house can see it.</p>
      ) : run.started_by === session.name ? (
        <Button className="justify-self-start" onClick={() => share.mutate()}>
          Let the house see it
        </Button>
      ) : null}
      <Trouble error={share.error} />
    </div>
  );
}
