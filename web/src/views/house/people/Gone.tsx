import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { NotFetched, Trouble } from "../../../parts/Notice";
import { moment } from "../../../parts/say";
import { useSession } from "../../../session/session";

/** Who has left. They come back as what they were, and sign in as before. */
export function Gone() {
  const { zone } = useSession();
  const queries = useQueryClient();
  const rows = useQuery(ask.peopleGone());
  const back = useMutation({
    mutationFn: ({ id, role }: { id: number; role: string }) =>
      unwrap(client.POST("/api/people/{person_id}/take-back", { params: { path: { person_id: id } }, body: { role } })),
    onSettled: () => void queries.invalidateQueries({ queryKey: ["own"] }),
  });
  if (!rows.data?.length) return <NotFetched questions={[rows]} />;
  return (
    <section className="tray p-5" aria-label="Who has left">
      <h2 className="mb-2 text-[20px]">Who has left</h2>
      <Trouble error={back.error} />
      <ul>
        {rows.data.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center justify-between gap-2 border-t border-line py-2">
            <p>
              <b>{row.name}</b>, {row.role}
              <span className="block text-[14px] text-soft">left {row.left_at ? moment(row.left_at, zone) : ""}</span>
            </p>
            <Button disabled={back.isPending} onClick={() => back.mutate(row)} aria-label={`Take ${row.name} back`}>
              Take back
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
