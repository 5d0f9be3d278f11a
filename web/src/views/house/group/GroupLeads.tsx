import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { NotFetched, Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";

/** Who leads the group. One of them names another, of the leads of this house. */
export function GroupLeads({ group }: { group: Schemas["GroupOut"] }) {
  const { house } = useSession();
  const queries = useQueryClient();
  const people = useQuery({ ...ask.people(), enabled: group.mine });
  const settled = () => void queries.invalidateQueries({ queryKey: ["own"] });
  const name = useMutation({
    mutationFn: (person: number) => unwrap(client.POST("/api/group/leads", { body: { person } })),
    onSettled: settled,
  });
  const drop = useMutation({
    mutationFn: (person_id: number) => unwrap(client.DELETE("/api/group/leads/{person_id}", { params: { path: { person_id } } })),
    onSettled: settled,
  });
  const leads = new Set(group.leads.map((row) => row.id));
  const others = people.data?.filter((row) => row.role === "lead" && !leads.has(row.id)) ?? [];
  const busy = name.isPending || drop.isPending;
  return (
    <section className="tray p-5" aria-label="Leads of the group">
      <h2 className="mb-2 text-[20px]">Who leads the group</h2>
      <NotFetched questions={[people]} />
      <ul>
        {group.leads.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center justify-between gap-2 border-t border-line py-2">
            <b>{row.name}</b>
            {group.mine && group.leads.length > 1 ? (
              <Button look="warn" disabled={busy} onClick={() => drop.mutate(row.id)} aria-label={`${row.name} leads the group no more`}>
                No more
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
      <Trouble error={name.error ?? drop.error} />
      {others.length ? (
        <div className="border-t border-line pt-3">
          <p className="mb-2 text-soft">A lead of {house} may lead the group too:</p>
          <div className="flex flex-wrap gap-2">
            {others.map((row) => (
              <Button key={row.id} disabled={busy} onClick={() => name.mutate(row.id)}>
                {row.name}
              </Button>
            ))}
          </div>
        </div>
      ) : null}
    </section>
  );
}
