import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { NotFetched, Trouble } from "../../../parts/Notice";
import { moment } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { ROLES, type RoleName } from "./roles";

/** Somebody is asked in: by a link, or by sixteen letters told at the bar. Both are shown once. */
export function Invitations() {
  const { zone, sends_mail: mails } = useSession();
  const queries = useQueryClient();
  const rows = useQuery(ask.invitations());
  const [name, setName] = useState("");
  const [role, setRole] = useState<RoleName>("maker");
  const [mail, setMail] = useState("");
  const settled = () => void queries.invalidateQueries({ queryKey: ["own", "invitations"] });
  const invite = useMutation({
    mutationFn: () => unwrap(client.POST("/api/invitations", { body: { name, role, mail } })),
    onSuccess: () => {
      setName("");
      setMail("");
      settled();
    },
  });
  const revoke = useMutation({
    mutationFn: (id: string) => unwrap(client.POST("/api/invitations/{invitation_id}/revoke", { params: { path: { invitation_id: id } } })),
    onSettled: settled,
  });
  return (
    <section className="tray p-5" aria-label="Ask somebody in">
      <h2 className="mb-2 text-[20px]">Ask somebody in</h2>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          invite.mutate();
        }}
      >
        <Field label="Their name" value={name} onChange={setName} fault={faultsOf(invite.error).name} maxLength={60} required />
        <Choice label="What they may do" value={role} options={ROLES} onChange={setRole} />
        {mails ? (
          <Field
            label="Mail the link to (or leave it empty)"
            type="email"
            value={mail}
            onChange={setMail}
            fault={faultsOf(invite.error).mail}
            autoComplete="off"
          />
        ) : null}
        <Trouble error={restOf(invite.error, ["name", "mail"])} />
        <Button look="main" type="submit" className="justify-self-start" disabled={invite.isPending}>
          Make an invitation
        </Button>
      </form>
      {invite.data ? <Shown made={invite.data} /> : null}
      <NotFetched questions={[rows]} />
      <Trouble error={revoke.error} />
      <ul className="mt-3">
        {rows.data?.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center justify-between gap-2 border-t border-line py-2">
            <p>
              <b>{row.name}</b> as a {row.role}
              <span className="block text-[14px] text-soft">
                asked by {row.by}, until {moment(row.expires_at, zone)}
              </span>
            </p>
            <Button
              look="warn"
              disabled={revoke.isPending}
              onClick={() => revoke.mutate(row.id)}
              aria-label={`Take ${row.name}’s invitation back`}
            >
              Take back
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Shown({ made }: { made: Schemas["InvitationOut"] }) {
  const link = `${location.origin}/join#${made.code}`;
  const [copied, setCopied] = useState(false);
  return (
    <div role="status" className="mt-3 rounded-xl bg-quiet p-3">
      <p>
        For {made.name}, once, within a week: <b className="figures block text-[22px]">{made.code}</b>
      </p>
      <p className="text-[15px] break-all">{link}</p>
      {made.mailed === null ? null : (
        <p className={made.mailed ? "font-semibold" : "font-semibold text-warn"}>
          {made.mailed ? "The link was mailed." : "The mail could not be sent: send the link yourself."}
        </p>
      )}
      <p className="mt-1 text-[14px] text-soft">It is not shown again.</p>
      <Button
        className="mt-2"
        onClick={() =>
          void navigator.clipboard?.writeText(link).then(
            () => setCopied(true),
            () => undefined,
          )
        }
      >
        {copied ? "Copied" : "Copy the link"}
      </Button>
    </div>
  );
}
