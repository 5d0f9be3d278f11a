import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, expectOk, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";

/** A second factor: six digits of an authenticator beside the password. For whoever leads; one's phone shows them without the network. */
export function Authenticator() {
  const { has_authenticator: has } = useSession();
  const queries = useQueryClient();
  const [password, setPassword] = useState("");
  const [digits, setDigits] = useState("");
  const settled = () => {
    setPassword("");
    setDigits("");
    void queries.invalidateQueries({ queryKey: ["session"] });
  };
  const begin = useMutation({
    mutationFn: () => unwrap(client.POST("/api/own/authenticator", { body: { password } })),
    onSuccess: () => setPassword(""),
  });
  const confirm = useMutation({
    mutationFn: () => unwrap(client.POST("/api/own/authenticator/confirm", { body: { code: digits } })),
    onSuccess: () => {
      begin.reset();
      settled();
    },
  });
  const renew = useMutation({
    mutationFn: () => unwrap(client.POST("/api/own/authenticator/recovery", { body: { password } })),
    onSuccess: settled,
  });
  const drop = useMutation({
    mutationFn: () => expectOk(client.POST("/api/own/authenticator/drop", { body: { password } })),
    onSuccess: settled,
  });
  const codes = confirm.data?.codes ?? renew.data?.codes;
  const busy = begin.isPending || renew.isPending || drop.isPending;
  return (
    <section className="tray p-5" aria-label="My authenticator">
      <h2 className="text-[20px]">My authenticator</h2>
      <p className="mb-3 text-soft">
        {has
          ? "Signing in asks for its six digits beside your password."
          : "A password can be looked over your shoulder. With an authenticator on your phone, signing in takes its six digits too; it needs no network."}
      </p>
      {codes ? (
        <div role="status" className="mb-3 rounded-xl bg-quiet p-3">
          <p>Write these down. Each signs you in once without your phone; they are not shown again.</p>
          <ul className="figures mt-2 grid grid-cols-2 gap-x-4 text-[18px]">
            {codes.map((code) => (
              <li key={code}>{code}</li>
            ))}
          </ul>
        </div>
      ) : null}
      {begin.data ? (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            confirm.mutate();
          }}
        >
          <img
            src={`data:image/svg+xml;utf8,${encodeURIComponent(begin.data.picture)}`}
            alt="The code that your authenticator reads"
            className="size-52 rounded-xl bg-white p-2"
          />
          <p className="text-[14px] break-all text-soft">
            Or type it there: <span className="figures text-ink">{begin.data.secret}</span>
          </p>
          <Field
            label="Its six digits now"
            value={digits}
            onChange={setDigits}
            inputMode="numeric"
            fault={faultsOf(confirm.error).code}
            maxLength={7}
            required
          />
          <Trouble error={restOf(confirm.error, ["code"])} />
          <div className="flex flex-wrap gap-2">
            <Button look="main" type="submit" disabled={confirm.isPending}>
              It shows these
            </Button>
            <Button onClick={() => begin.reset()}>Not now</Button>
          </div>
        </form>
      ) : (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            (has ? renew : begin).mutate();
          }}
        >
          <Field
            label="My password, for the authenticator"
            value={password}
            onChange={setPassword}
            type="password"
            autoComplete="current-password"
            required
          />
          <Trouble error={begin.error ?? renew.error ?? drop.error} />
          <div className="flex flex-wrap gap-2">
            <Button look={has ? "plain" : "main"} type="submit" disabled={busy}>
              {has ? "New recovery codes" : "Set one up"}
            </Button>
            {has ? (
              <Button look="warn" disabled={busy || !password} onClick={() => drop.mutate()}>
                Have none
              </Button>
            ) : null}
          </div>
        </form>
      )}
    </section>
  );
}
