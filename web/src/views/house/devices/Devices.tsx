import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, expectOk, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Empty, NotFetched, Shape, Trouble } from "../../../parts/Notice";
import { moment } from "../../../parts/say";
import { useSession } from "../../../session/session";

/** The house's devices: this one is enrolled, one that is lost is revoked. */
export function Devices() {
  const session = useSession();
  const queries = useQueryClient();
  const rows = useQuery(ask.devices());
  const [name, setName] = useState("");
  const enrol = useMutation({
    mutationFn: () => unwrap(client.POST("/api/devices", { body: { name } })),
    onSuccess: (next) => {
      setName("");
      queries.setQueryData(ask.session().queryKey, next);
      void queries.invalidateQueries({ queryKey: ["own"] });
    },
  });
  const revoke = useMutation({
    mutationFn: (id: string) => expectOk(client.POST("/api/devices/{device_id}/revoke", { params: { path: { device_id: id } } })),
    onSettled: () => rows.refetch(),
  });
  if (rows.isPending) return <Shape rows={2} />;
  return (
    <section className="tray p-5" aria-label="Devices of the house">
      <h2 className="text-[20px]">Devices of the house</h2>
      <p className="mb-3 text-soft">
        On these, people change by PIN. Revoke one that is lost: nobody is signed in there any more, and what it sends waits for you.
      </p>
      <NotFetched questions={[rows]} />
      <Trouble error={enrol.error ?? revoke.error} />
      {session.device ? null : (
        <form
          className="mb-3 flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            enrol.mutate();
          }}
        >
          <Field
            label="This device, by where it stands"
            placeholder="bench tablet"
            value={name}
            onChange={setName}
            required
            className="flex-1"
          />
          <Button look="main" type="submit" disabled={enrol.isPending}>
            Enrol this device
          </Button>
        </form>
      )}
      {rows.data?.length === 0 ? <Empty title="None yet">The first could be the tablet at the bench.</Empty> : null}
      <ul>
        {rows.data?.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center justify-between gap-3 border-t border-line py-2">
            <div>
              <p className="font-semibold">
                {row.name}
                {row.id === session.device?.id ? " · this one" : ""}
              </p>
              <p className="text-[14px] text-soft">
                {row.revoked_at
                  ? `revoked ${moment(row.revoked_at, session.zone)}`
                  : `enrolled by ${row.enrolled_by}, ${moment(row.enrolled_at, session.zone)}${row.seen_at ? ` · last seen ${moment(row.seen_at, session.zone)}` : ""}`}
              </p>
            </div>
            {row.revoked_at ? null : (
              <Button look="warn" disabled={revoke.isPending} onClick={() => revoke.mutate(row.id)} aria-label={`Revoke ${row.name}`}>
                Revoke
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
