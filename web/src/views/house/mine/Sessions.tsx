import { useMutation, useQuery } from "@tanstack/react-query";
import { client, expectOk } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { NotFetched, Shape, Trouble } from "../../../parts/Notice";
import { moment } from "../../../parts/say";
import { useSession } from "../../../session/session";

/** Where I am signed in, and the way to end it there. */
export function Sessions() {
  const { zone } = useSession();
  const rows = useQuery(ask.ownSessions());
  const end = useMutation({
    mutationFn: (id: string) => expectOk(client.POST("/api/own/sessions/{sign_in_id}/end", { params: { path: { sign_in_id: id } } })),
    onSettled: () => rows.refetch(),
  });
  if (rows.isPending) return <Shape rows={2} />;
  return (
    <section className="tray p-5" aria-label="Where I am signed in">
      <h2 className="text-[20px]">Where I am signed in</h2>
      <p className="mb-2 text-soft">What was done there and has not arrived yet waits for a lead, once you end it from here.</p>
      <NotFetched questions={[rows]} />
      <Trouble error={end.error} />
      <ul>
        {rows.data?.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center justify-between gap-3 border-t border-line py-2">
            <div>
              <p className="font-semibold">
                {row.device || row.browser}
                {row.here ? " · here" : ""}
              </p>
              <p className="text-[14px] text-soft">
                {row.device ? `${row.browser} · ` : ""}
                {row.by_pin ? "by PIN" : "by password"} since {moment(row.started_at, zone)} · last seen {moment(row.seen_at, zone)}
              </p>
            </div>
            {row.here ? null : (
              <Button look="warn" disabled={end.isPending} onClick={() => end.mutate(row.id)}>
                End it
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
