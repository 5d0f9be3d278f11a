import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { NotFetched, Shape, Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";
import { ROLES, type RoleName } from "./roles";

type Row = Schemas["PersonRow"];

/** The people of the house: what each may do, a code for who forgot their password, who is let go, to whom the house is handed. */
export function Here() {
  const rows = useQuery(ask.people());
  const [shown, setShown] = useState<{ name: string; code: string } | null>(null);
  if (rows.isPending) return <Shape rows={3} />;
  return (
    <section className="tray p-5" aria-label="People of the house">
      <h2 className="mb-2 text-[20px]">People of the house</h2>
      <NotFetched questions={[rows]} />
      {shown ? (
        <p role="status" className="mb-3 rounded-xl bg-quiet p-3">
          Tell {shown.name}, and nobody else: <b className="figures text-[22px]">{shown.code}</b>
          <br />
          It sets a new password once, within a day, and is not shown again.
        </p>
      ) : null}
      <ul>
        {rows.data?.map((row) => (
          <PersonLine key={row.id} row={row} alone={rows.data.length === 1} onCode={(code) => setShown({ name: row.name, code })} />
        ))}
      </ul>
      {rows.data?.length === 1 ? (
        <p className="border-t border-line pt-3 text-soft">
          You are alone here: nothing of roles and PINs needs you. Ask somebody in when it is time.
        </p>
      ) : null}
    </section>
  );
}

function PersonLine({ row, alone, onCode }: { row: Row; alone: boolean; onCode: (code: string) => void }) {
  const session = useSession();
  const queries = useQueryClient();
  const [asks, setAsks] = useState<"" | "let-go" | "hand-over">("");
  const path = { person_id: row.id };
  const settled = () => {
    setAsks("");
    void queries.invalidateQueries({ queryKey: ["own"] });
    void queries.invalidateQueries({ queryKey: ["session"] });
  };
  const code = useMutation({
    mutationFn: () => unwrap(client.POST("/api/people/{person_id}/code", { params: { path } })),
    onSuccess: (made) => onCode(made.code),
  });
  const role = useMutation({
    mutationFn: (next: RoleName) => unwrap(client.PUT("/api/people/{person_id}/role", { params: { path }, body: { role: next } })),
    onSettled: settled,
  });
  const letGo = useMutation({
    mutationFn: () => unwrap(client.POST("/api/people/{person_id}/let-go", { params: { path } })),
    onSuccess: settled,
  });
  const handOver = useMutation({
    mutationFn: () => unwrap(client.POST("/api/people/{person_id}/hand-over", { params: { path } })),
    onSuccess: settled,
  });
  const isMe = row.id === session.person;
  return (
    <li className="border-t border-line py-3">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <div>
          <p className="font-semibold">
            {row.name}
            {isMe ? " · you" : ""}
          </p>
          <p className="text-[14px] text-soft">
            {row.by_group ? "leads it with the group" : row.has_pin ? "has a PIN" : "no PIN yet: set under Mine"}
          </p>
        </div>
        {alone || row.by_group ? null : (
          <Choice
            label={`What ${row.name} may do`}
            value={row.role as RoleName}
            options={ROLES}
            onChange={(next) => role.mutate(next)}
            disabled={role.isPending}
          />
        )}
      </div>
      <Trouble error={role.error ?? code.error ?? letGo.error ?? handOver.error} />
      {asks ? (
        <div className="mt-2 rounded-xl bg-quiet p-3">
          <p className="mb-2">
            {asks === "let-go"
              ? `${row.name} is signed out everywhere here, and comes back only if a lead takes them back. What they did stays under their name.`
              : `${row.name} becomes the lead of ${session.house}, and you a maker.`}
          </p>
          <div className="flex flex-wrap gap-2">
            <Button
              look="warn"
              disabled={letGo.isPending || handOver.isPending}
              onClick={() => (asks === "let-go" ? letGo.mutate() : handOver.mutate())}
            >
              {asks === "let-go" ? `Let ${row.name} go` : `Hand ${session.house} over`}
            </Button>
            <Button onClick={() => setAsks("")}>Not now</Button>
          </div>
        </div>
      ) : (
        <div className="mt-1 -ml-3 flex flex-wrap gap-1">
          {isMe || row.by_group ? null : (
            <>
              <Button look="quiet" disabled={code.isPending} onClick={() => code.mutate()} aria-label={`A code for ${row.name}`}>
                Forgot the password
              </Button>
              <Button look="quiet" onClick={() => setAsks("hand-over")} aria-label={`Hand the house to ${row.name}`}>
                Hand the house over …
              </Button>
              <Button look="quiet" className="text-warn" onClick={() => setAsks("let-go")} aria-label={`Let ${row.name} go …`}>
                Let go …
              </Button>
            </>
          )}
        </div>
      )}
    </li>
  );
}
