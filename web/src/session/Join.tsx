import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { client, unwrap } from "../api/client";
import { ask } from "../api/queries";
import { Button } from "../parts/Button";
import { DigitsField } from "../parts/DigitsField";
import { Field } from "../parts/Field";
import { faultsOf, restOf } from "../parts/faults";
import { Trouble } from "../parts/Notice";
import { asksForDigits, beyondAsking } from "../parts/secondFactor";
import { signsIn } from "../sync/who";
import { allButSession, forgetAnswers } from "./freshQueries";

interface JoinProps {
  given: string;
  /** Whoever opens it most likely signs in here already. */
  signsInHere?: boolean;
  onBack: () => void;
}

/** An invitation is accepted: by somebody new, or by somebody who signs in here already. The code stands behind the # of a link, or is typed. */
export function Join({ given, signsInHere = false, onBack }: JoinProps) {
  const queries = useQueryClient();
  const go = useNavigate();
  const [code, setCode] = useState(given);
  const [isKnown, setKnown] = useState(signsInHere);
  const [digits, setDigits] = useState("");
  const [asked, setAsked] = useState(false);
  const [me, setMe] = useState({ sign_in: "", name: "", password: "" });
  const look = useMutation({
    mutationFn: (said: string) => unwrap(client.POST("/api/session/invitation", { body: { code: said } })),
    onSuccess: (invited) => setMe((before) => ({ ...before, name: before.name || invited.name })),
  });
  const lookAt = look.mutate;
  useEffect(() => {
    if (given) lookAt(given);
  }, [given, lookAt]);
  const join = useMutation({
    mutationFn: () =>
      signsIn(() => unwrap(client.POST("/api/session/join", { body: { code, is_known: isKnown, person: me, authenticator: digits } }))),
    onError: (error) => setAsked((before) => before || asksForDigits(error)),
    onSuccess: (session) => {
      void go("/shift", { replace: true });
      forgetAnswers(queries, allButSession);
      queries.setQueryData(ask.session().queryKey, { ...session, kept: false });
    },
  });
  const invited = look.data;
  const faults = faultsOf(join.error);
  return (
    <main className="grid min-h-[90dvh] place-items-center p-5">
      <div className="tray w-full max-w-md p-8">
        <h1 className="text-[36px] text-rim">{invited ? `Come in to ${invited.house}` : "An invitation"}</h1>
        {invited ? (
          <form
            className="mt-2 grid gap-4"
            onSubmit={(event) => {
              event.preventDefault();
              join.mutate();
            }}
          >
            <p className="text-soft">
              {invited.by} asks {invited.name} in as a {invited.role}.
            </p>
            <Field
              label={isKnown ? "Name you sign in by" : "Name to sign in by, without blanks"}
              value={me.sign_in}
              onChange={(sign_in) => setMe({ ...me, sign_in })}
              fault={faults.sign_in}
              autoComplete="username"
              autoFocus
              required
            />
            {isKnown ? null : <Field label="Name on labels" value={me.name} onChange={(name) => setMe({ ...me, name })} maxLength={60} />}
            <Field
              label={isKnown ? "Password" : "Password, ten letters at least"}
              value={me.password}
              onChange={(password) => setMe({ ...me, password })}
              fault={faults.password}
              type="password"
              autoComplete={isKnown ? "current-password" : "new-password"}
              required
            />
            {asked ? <DigitsField value={digits} onChange={setDigits} /> : null}
            <Trouble error={beyondAsking(restOf(join.error, ["sign_in", "password"]))} />
            <Button look="main" type="submit" disabled={join.isPending}>
              Come in
            </Button>
            <div className="flex flex-wrap justify-between gap-2 border-t border-line pt-3">
              <Button look="quiet" onClick={() => setKnown(!isKnown)}>
                {isKnown ? "I am new here" : "I sign in here already"}
              </Button>
              <Button look="quiet" onClick={onBack}>
                Not now
              </Button>
            </div>
          </form>
        ) : (
          <form
            className="mt-2 grid gap-4"
            onSubmit={(event) => {
              event.preventDefault();
              lookAt(code);
            }}
          >
            <p className="text-soft">A lead gives you a link or sixteen letters. They work once, within a week.</p>
            <Field label="Code of the invitation" value={code} onChange={setCode} placeholder="abcd-efgh-jkmn-pqrs" autoFocus required />
            <Trouble error={look.error} />
            <Button look="main" type="submit" disabled={look.isPending}>
              Look at it
            </Button>
            <Button look="quiet" onClick={onBack}>
              Back to signing in
            </Button>
          </form>
        )}
      </div>
    </main>
  );
}
