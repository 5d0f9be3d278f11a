import { useMutation } from "@tanstack/react-query";
import { client, expectOk, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Notice, Trouble } from "../../../parts/Notice";

/** Drafts that lost a conflict: told to whoever has the draft open, to be taken or thrown away. */
export function SideDrafts({ drafts, revision }: { drafts: readonly Schemas["SideDraftOut"][]; revision: () => Promise<number> }) {
  const again = () => window.location.reload();
  const take = useMutation({
    mutationFn: async (id: number) =>
      unwrap(
        client.POST("/api/side-drafts/{side_id}/take", {
          params: { path: { side_id: id }, header: { "If-Match": `"${await revision()}"` } },
        }),
      ),
    onSuccess: again,
  });
  const drop = useMutation({
    mutationFn: (id: number) => expectOk(client.DELETE("/api/side-drafts/{side_id}", { params: { path: { side_id: id } } })),
    onSuccess: again,
  });
  if (drafts.length === 0) return null;
  return (
    <ul className="mb-3 grid gap-2" aria-label="Kept beside this draft">
      {drafts.map((item) => (
        <li key={item.id} className="flex flex-wrap items-center gap-2">
          <div className="flex-1">
            <Notice severity="check">
              Two people wrote at once: what <b>{item.name}</b> wrote is kept beside this draft.
            </Notice>
          </div>
          <Button onClick={() => take.mutate(item.id)} disabled={take.isPending}>
            Take it instead
          </Button>
          <Button look="quiet" onClick={() => drop.mutate(item.id)} aria-label={`Throw away what ${item.name} wrote`}>
            Throw it away
          </Button>
        </li>
      ))}
      <Trouble error={take.error ?? drop.error} />
    </ul>
  );
}
