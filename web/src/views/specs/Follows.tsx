import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, unwrap } from "../../api/client";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Trouble } from "../../parts/Notice";
import { canLead, useSession } from "../../session/session";

/** Where a spec that was copied from another house comes from; one that follows takes the newer version in, or goes its own way. */
export function Follows({ spec }: { spec: string }) {
  const session = useSession();
  const queries = useQueryClient();
  const origin = useQuery(ask.origin(spec)).data;
  const settled = () => void queries.invalidateQueries();
  const path = { params: { path: { spec_id: spec } } };
  const take = useMutation({ mutationFn: () => unwrap(client.POST("/api/specs/{spec_id}/follow", path)), onSuccess: settled });
  const fork = useMutation({ mutationFn: () => unwrap(client.POST("/api/specs/{spec_id}/fork", path)), onSuccess: settled });
  if (!origin?.house) return null;
  const behind = origin.newest > origin.number;
  const busy = take.isPending || fork.isPending;
  return (
    <section className="tray mb-4 flex flex-wrap items-center justify-between gap-3 p-4" aria-label="Where it comes from">
      <p>
        {origin.followed ? "Follows" : "Came from"} <b>{origin.name}</b> of <b>{origin.house}</b>, version {origin.number}.
        {behind ? (
          <span className="block">
            Version {origin.newest} stands there: {origin.why}
          </span>
        ) : null}
        {origin.followed && !behind ? (
          <span className="block text-[14px] text-soft">What is typed into it is not kept: it follows.</span>
        ) : null}
        <Trouble error={take.error ?? fork.error} />
      </p>
      {origin.followed && canLead(session) ? (
        <div className="flex flex-wrap gap-2">
          {behind ? (
            <Button look="main" disabled={busy} onClick={() => take.mutate()}>
              Take version {origin.newest} in
            </Button>
          ) : null}
          <Button disabled={busy} onClick={() => fork.mutate()}>
            Go our own way
          </Button>
        </div>
      ) : null}
    </section>
  );
}
