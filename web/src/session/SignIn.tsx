import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../api/client";
import { ask } from "../api/queries";
import { Button } from "../parts/Button";
import { DigitsField } from "../parts/DigitsField";
import { Field } from "../parts/Field";
import { Trouble } from "../parts/Notice";
import { asksForDigits, beyondAsking } from "../parts/secondFactor";
import { signsIn } from "../sync/who";
import { allButSession, forgetAnswers } from "./freshQueries";
import { Join } from "./Join";
import { OpenHouse } from "./OpenHouse";
import { SwitchPerson } from "./SwitchPerson";
import { WaitingLine } from "./WaitingLine";

interface SignInProps {
  device: Schemas["EnrolledOut"] | null;
  /** How a first house may be opened from here; empty where there is one. */
  opening: Schemas["Session"]["may_open"];
  /** Whether the made-up house stands on this site. */
  demo: boolean;
}

/** A link of an invitation shows it; a site without any house asks for one to be opened. */
export function firstShown(opening: SignInProps["opening"], demo: boolean, path = location.pathname): "" | "open" | "join" {
  if (path === "/join") return "join";
  return opening && !demo ? "open" : "";
}

/** Who it is, and nothing else until that is right: by PIN on a device of the house, by name and password on any. */
export function SignIn({ device, opening, demo }: SignInProps) {
  const [how, setHow] = useState<"pin" | "password" | "code">(device ? "pin" : "password");
  const [coming, setComing] = useState<"" | "open" | "join">(() => firstShown(opening, demo));
  if (coming === "join") return <Join given={location.hash.slice(1)} onBack={() => setComing("")} />;
  if (coming === "open" && opening) return <OpenHouse byCode={opening === "by code"} onBack={() => setComing("")} />;
  return (
    <>
      <WaitingLine />
      <main className="grid min-h-[90dvh] place-items-center p-5">
        <div className="tray w-full max-w-sm p-8">
          <h1 className="text-[40px] text-rim">Ulsek</h1>
          <p className="mt-1 mb-6 text-soft">{device ? `${device.name}. Who is at it?` : "The bench for a bar's house ingredients."}</p>
          {how === "pin" && device ? <SwitchPerson device={device} now={0} onSwitched={() => undefined} /> : <ByName key={how} how={how} />}
          <div className="mt-5 flex flex-wrap justify-between gap-2 border-t border-line pt-3">
            {device && how !== "pin" ? <Button onClick={() => setHow("pin")}>By PIN</Button> : null}
            {how === "password" ? null : <Button onClick={() => setHow("password")}>By name and password</Button>}
            {how === "code" ? null : (
              <Button look="quiet" onClick={() => setHow("code")}>
                I forgot my password
              </Button>
            )}
            <Button look="quiet" onClick={() => setComing("join")}>
              I was invited
            </Button>
            {opening ? (
              <Button look="quiet" onClick={() => setComing("open")}>
                Open a house of your own
              </Button>
            ) : null}
          </div>
        </div>
      </main>
    </>
  );
}

function ByName({ how }: { how: string }) {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [code, setCode] = useState("");
  const [password, setPassword] = useState("");
  const [digits, setDigits] = useState("");
  const [asked, setAsked] = useState(false);
  const byCode = how === "code";
  const sign = useMutation({
    mutationFn: () =>
      signsIn(() =>
        byCode
          ? unwrap(client.POST("/api/session/code", { body: { name, code, password, authenticator: digits } }))
          : unwrap(client.POST("/api/session", { body: { name, password, code: digits } })),
      ),
    onError: (error) => setAsked((before) => before || asksForDigits(error)),
    onSuccess: (session) => {
      forgetAnswers(queries, allButSession);
      queries.setQueryData(ask.session().queryKey, { ...session, kept: false });
    },
  });
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        sign.mutate();
      }}
    >
      {byCode ? <p className="text-soft">Ask a lead for a code. It works once, within a day.</p> : null}
      <Field label="Name" value={name} onChange={setName} autoComplete="username" autoFocus required />
      {byCode ? <Field label="Code from your lead" value={code} onChange={setCode} required /> : null}
      <Field
        label={byCode ? "New password, ten letters at least" : "Password"}
        value={password}
        onChange={setPassword}
        type="password"
        autoComplete={byCode ? "new-password" : "current-password"}
        required
      />
      {asked ? <DigitsField value={digits} onChange={setDigits} /> : null}
      <Trouble error={beyondAsking(sign.error)} />
      <Button look="main" type="submit" disabled={sign.isPending}>
        Sign in
      </Button>
    </form>
  );
}
