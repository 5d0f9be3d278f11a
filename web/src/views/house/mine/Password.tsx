import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";

/** A new password; wherever else I am signed in, that ends. */
export function Password() {
  const queries = useQueryClient();
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const change = useMutation({
    mutationFn: () => unwrap(client.PUT("/api/own/password", { body: { old, new: next } })),
    onSuccess: (session) => {
      setOld("");
      setNext("");
      queries.setQueryData(ask.session().queryKey, session);
      void queries.invalidateQueries({ queryKey: ["own"] });
    },
  });
  return (
    <section className="tray p-5" aria-label="My password">
      <h2 className="mb-3 text-[20px]">My password</h2>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <Field label="Password until now" value={old} onChange={setOld} type="password" autoComplete="current-password" required />
        <Field
          label="New password, ten letters at least"
          value={next}
          onChange={setNext}
          type="password"
          autoComplete="new-password"
          required
        />
        <Trouble error={change.error} />
        {change.isSuccess ? <p role="status">Changed. Wherever else you were signed in, you are no more.</p> : null}
        <Button look="main" type="submit" className="justify-self-start" disabled={change.isPending}>
          Change my password
        </Button>
      </form>
    </section>
  );
}
