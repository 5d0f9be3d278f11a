import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { NotFetched, Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { day } from "../../../parts/say";
import { useSession } from "../../../session/session";

const SCOPES = [
  { value: "read", label: "to read" },
  { value: "make", label: "to make, as a maker" },
  { value: "lead", label: "to lead, but for people" },
] as const;

/** Tokens for the house's own scripts: what each may do, until when, last used when. A token is shown once. */
export function Tokens() {
  const queries = useQueryClient();
  const rows = useQuery(ask.tokens());
  const [name, setName] = useState("");
  const [scope, setScope] = useState<(typeof SCOPES)[number]["value"]>("read");
  const [days, setDays] = useState("90");
  const settled = () => void queries.invalidateQueries({ queryKey: ["own", "tokens"] });
  const make = useMutation({
    mutationFn: () => unwrap(client.POST("/api/tokens", { body: { name, scope, days: Math.round(typed(days) ?? 0) } })),
    onSuccess: () => {
      setName("");
      settled();
    },
  });
  const revoke = useMutation({
    mutationFn: (id: string) => unwrap(client.POST("/api/tokens/{token_id}/revoke", { params: { path: { token_id: id } } })),
    onSettled: settled,
  });
  const faults = faultsOf(make.error);
  return (
    <section className="tray p-5" aria-label="Scripts of the house">
      <h2 className="text-[20px]">Scripts</h2>
      <p className="text-soft">A program of yours asks Ulsek with a token, for you: prices out to a sheet, stock in.</p>
      <Link to="/house/api" className="mb-2 inline-flex min-h-11 items-center font-semibold text-rim underline">
        What it may ask
      </Link>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          make.mutate();
        }}
      >
        <Field label="Which script" value={name} onChange={setName} fault={faults.name} maxLength={60} required />
        <div className="flex flex-wrap items-end gap-2">
          <Choice label="What it may do" value={scope} options={SCOPES} onChange={setScope} />
          <Field
            label="For how many days"
            value={days}
            onChange={setDays}
            inputMode="numeric"
            fault={faults.days}
            className="w-44"
            required
          />
        </div>
        <Trouble error={restOf(make.error, ["name", "days"])} />
        <Button type="submit" className="justify-self-start" disabled={make.isPending}>
          Make a token
        </Button>
      </form>
      {make.data ? (
        <p role="status" className="mt-3 rounded-xl bg-quiet p-3 break-all">
          For {make.data.row.name}: <b className="figures block text-[16px]">{make.data.token}</b>
          It is not shown again. Keep it as you keep a password.
        </p>
      ) : null}
      <NotFetched questions={[rows]} />
      <Trouble error={revoke.error} />
      <ul className="mt-3">
        {rows.data?.map((row) => (
          <TokenLine key={row.id} row={row} busy={revoke.isPending} onRevoke={() => revoke.mutate(row.id)} />
        ))}
      </ul>
    </section>
  );
}

function TokenLine({ row, busy, onRevoke }: { row: Schemas["TokenRow"]; busy: boolean; onRevoke: () => void }) {
  const { zone } = useSession();
  return (
    <li className="flex flex-wrap items-center justify-between gap-2 border-t border-line py-2">
      <p>
        <b>{row.name}</b> {SCOPES.find(({ value }) => value === row.scope)?.label}
        <span className="block text-[14px] text-soft">
          made by {row.by}, until {day(row.expires_at, zone)}, {row.used_at ? `last used ${day(row.used_at, zone)}` : "not used yet"}
        </span>
      </p>
      <Button look="warn" disabled={busy} onClick={onRevoke} aria-label={`Revoke the token of ${row.name}`}>
        Revoke
      </Button>
    </li>
  );
}
