import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";

/** A house alone founds a group, or comes into one by a code from its lead. */
export function IntoGroup() {
  const { house } = useSession();
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [code, setCode] = useState("");
  const settled = () => {
    void queries.invalidateQueries({ queryKey: ask.group().queryKey });
    void queries.invalidateQueries({ queryKey: ["own", "people"] });
  };
  const found = useMutation({ mutationFn: () => unwrap(client.POST("/api/group", { body: { name } })), onSuccess: settled });
  const join = useMutation({ mutationFn: () => unwrap(client.POST("/api/group/join", { body: { code } })), onSuccess: settled });
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-2">
      <section className="tray p-5" aria-label="Found a group">
        <h2 className="text-[20px]">Found a group</h2>
        <p className="mb-3 text-soft">
          For more than one bar: who leads the group leads each of its houses, sees them side by side, and copies specs between them.
        </p>
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            found.mutate();
          }}
        >
          <Field
            label="What the houses are called together"
            value={name}
            onChange={setName}
            fault={faultsOf(found.error).name}
            maxLength={80}
            required
          />
          <Trouble error={restOf(found.error, ["name"])} />
          <Button look="main" type="submit" className="justify-self-start" disabled={found.isPending}>
            Found it with {house}
          </Button>
        </form>
      </section>
      <section className="tray p-5" aria-label="Join a group">
        <h2 className="text-[20px]">Join a group</h2>
        <p className="mb-3 text-soft">Its lead gives you a code. Whoever leads the group is a lead in {house} then, until you leave it.</p>
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            join.mutate();
          }}
        >
          <Field
            label="The code of the group"
            value={code}
            onChange={setCode}
            fault={faultsOf(join.error).code}
            autoComplete="off"
            maxLength={40}
            required
          />
          <Trouble error={restOf(join.error, ["code"])} />
          <Button look="main" type="submit" className="justify-self-start" disabled={join.isPending}>
            Join it
          </Button>
        </form>
      </section>
    </div>
  );
}
