import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { NotFetched, Shape, Trouble } from "../../parts/Notice";

/** The people of the house, and a code for who forgot their password. */
export function People() {
  const rows = useQuery(ask.people());
  const [shown, setShown] = useState<{ name: string; code: string } | null>(null);
  const issue = useMutation({
    mutationFn: async ({ id, name }: { id: number; name: string }) => {
      const { code } = await unwrap(client.POST("/api/people/{person_id}/code", { params: { path: { person_id: id } } }));
      setShown({ name, code });
    },
  });
  if (rows.isPending) return <Shape rows={2} />;
  return (
    <section className="tray p-5" aria-label="People of the house">
      <h2 className="mb-2 text-[20px]">People of the house</h2>
      <NotFetched questions={[rows]} />
      <Trouble error={issue.error} />
      {shown ? (
        <p role="status" className="mb-3 rounded-xl bg-quiet p-3">
          Tell {shown.name}, and nobody else: <b className="figures text-[22px]">{shown.code}</b>
          <br />
          It sets a new password once, within a day, and is not shown again.
        </p>
      ) : null}
      <ul>
        {rows.data?.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center justify-between gap-3 border-t border-line py-2">
            <div>
              <p className="font-semibold">{row.name}</p>
              <p className="text-[14px] text-soft">
                {row.role} · {row.has_pin ? "has a PIN" : "no PIN"}
              </p>
            </div>
            <Button disabled={issue.isPending} onClick={() => issue.mutate(row)} aria-label={`A code for ${row.name}`}>
              Forgot the password
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
