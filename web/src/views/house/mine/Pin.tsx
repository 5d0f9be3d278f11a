import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";

/** Six digits with which I take over on the house's devices. */
export function Pin() {
  const { has_pin } = useSession();
  const queries = useQueryClient();
  const [pin, setPin] = useState("");
  const [password, setPassword] = useState("");
  const set = useMutation({
    mutationFn: (next: string) => unwrap(client.PUT("/api/own/pin", { body: { password, pin: next } })),
    onSuccess: (session) => {
      setPin("");
      setPassword("");
      queries.setQueryData(ask.session().queryKey, session);
      void queries.invalidateQueries({ queryKey: ["own"] });
    },
  });
  return (
    <section className="tray p-5" aria-label="My PIN">
      <h2 className="text-[20px]">My PIN</h2>
      <p className="mb-3 text-soft">
        {has_pin ? "You have one." : "You have none yet."} With it you take over on a device of the house; it is enough for making, and for
        nothing else.
      </p>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          set.mutate(pin);
        }}
      >
        <Field
          label={has_pin ? "New PIN, six digits" : "PIN, six digits"}
          value={pin}
          onChange={setPin}
          type="password"
          inputMode="numeric"
          maxLength={6}
          required
        />
        <Field
          label="My password, for the PIN"
          value={password}
          onChange={setPassword}
          type="password"
          autoComplete="current-password"
          required
        />
        <Trouble error={set.error} />
        <div className="flex flex-wrap gap-2">
          <Button look="main" type="submit" disabled={set.isPending}>
            {has_pin ? "Change my PIN" : "Set my PIN"}
          </Button>
          {has_pin ? (
            <Button look="warn" disabled={set.isPending || !password} onClick={() => set.mutate("")}>
              Have no PIN
            </Button>
          ) : null}
        </div>
      </form>
    </section>
  );
}
