import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, told } from "../api/client";
import { ask } from "../api/queries";
import { forgetAnswers } from "../offline/worker";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Trouble } from "../parts/Notice";

/** Name and password; nothing else until that is right. */
export function SignIn() {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const sign = useMutation({
    mutationFn: () => told(client.POST("/api/session", { body: { name, password } })),
    onSuccess: async (session) => {
      await forgetAnswers();
      queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
      queries.setQueryData(ask.session().queryKey, session);
    },
  });
  return (
    <main className="grid min-h-[90dvh] place-items-center p-5">
      <form
        className="tray w-full max-w-sm p-8"
        onSubmit={(event) => {
          event.preventDefault();
          sign.mutate();
        }}
      >
        <h1 className="text-[40px] text-rim">Ulsek</h1>
        <p className="mt-1 mb-6 text-soft">The bench for a bar's house ingredients.</p>
        <div className="grid gap-4">
          <Field label="Name" value={name} onChange={setName} autoComplete="username" autoFocus required />
          <Field label="Password" value={password} onChange={setPassword} type="password" autoComplete="current-password" required />
          <Trouble error={sign.error} />
          <Button look="main" type="submit" disabled={sign.isPending}>
            Sign in
          </Button>
        </div>
      </form>
    </main>
  );
}
