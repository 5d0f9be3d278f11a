import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { NotFetched, Trouble } from "../../../parts/Notice";
import { moment } from "../../../parts/say";
import { sender } from "../../../session/sender";
import { useSession } from "../../../session/session";

/** What was done on a device and nobody can be shown to have done, or was kept for the lead: each is accepted or thrown away. */
export function Held() {
  const rows = useQuery(ask.held());
  const people = useQuery({ ...ask.people(), enabled: (rows.data ?? []).some((row) => !row.by) });
  if (!rows.data?.length) return <NotFetched questions={[rows]} />;
  const look = () => {
    void rows.refetch();
    void sender.compare().catch(() => undefined);
  };
  return (
    <section className="tray mb-4 p-5" aria-label="Waits for you">
      <h2 className="text-[20px]">Waits for you</h2>
      <p className="mb-2 text-soft">Nothing of this counts until you say so. Ask who was there.</p>
      <ul>
        {rows.data.map((row) => (
          <HeldItem key={row.id} row={row} people={people.data ?? []} onDecided={look} />
        ))}
      </ul>
    </section>
  );
}

interface HeldItemProps {
  row: Schemas["HeldOut"];
  people: readonly Schemas["PersonRow"][];
  onDecided: () => void;
}

function HeldItem({ row, people, onDecided }: HeldItemProps) {
  const { zone } = useSession();
  const makers = people.filter((person) => person.role !== "reader");
  const claimed = makers.find((person) => person.name === row.claimed);
  const [who, setWho] = useState("");
  const path = { action_id: row.id };
  const decide = useMutation({
    mutationFn: (accept: boolean) =>
      accept
        ? unwrap(
            client.POST("/api/signed-actions/{action_id}/accept", {
              params: { path },
              body: { person: row.by ? null : Number(who || claimed?.id || 0) || null },
            }),
          )
        : unwrap(client.POST("/api/signed-actions/{action_id}/throw-away", { params: { path } })),
    onSuccess: onDecided,
  });
  return (
    <li className="grid gap-2 border-t border-line py-3 md:grid-cols-[minmax(0,1fr)_auto] md:items-center">
      <div>
        <p className="font-semibold">{row.what || row.body.kind?.toString().replaceAll("_", " ")}</p>
        <p className="text-[14px] text-soft">
          {row.by || (row.claimed ? `said to be ${row.claimed}` : "nobody named")}
          {row.at ? ` · ${moment(row.at, zone)}` : ""}
          {row.device ? ` · on ${row.device}` : ""}
          {row.carried_by ? ` · brought by ${row.carried_by}` : ""}
        </p>
        <p className="text-[15px]">{row.why}</p>
        <Trouble error={decide.error} />
      </div>
      <div className="flex flex-wrap items-center gap-2">
        {row.by ? null : (
          <Choice
            label="Who did it"
            value={who || String(claimed?.id ?? "")}
            options={makers.map((person) => ({ value: String(person.id), label: person.name }))}
            onChange={setWho}
          />
        )}
        <Button look="main" disabled={decide.isPending || (!row.by && !who && !claimed)} onClick={() => decide.mutate(true)}>
          It counts
        </Button>
        <Button look="warn" disabled={decide.isPending} onClick={() => decide.mutate(false)}>
          Throw it away
        </Button>
      </div>
    </li>
  );
}
