import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, expectOk } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { signOut } from "../../../sync/who";

/** The made-up house goes, with everything in it; it asks for its name. */
export function WipeDemo({ house }: { house: string }) {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const wipe = useMutation({
    mutationFn: async () => {
      await expectOk(client.POST("/api/house/wipe", { body: { name } }));
      await signOut();
    },
    onSuccess: () => queries.resetQueries(),
  });
  return (
    <section className="tray p-5" aria-label="Wipe the demo">
      <h2 className="text-[20px]">This is the demo</h2>
      <p className="mb-3 text-soft">
        {house} is made up, and so is everything in it. Wiped, it is gone for good with its neighbour; a house of your own is never touched.
      </p>
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          wipe.mutate();
        }}
      >
        <Field
          label={`Write “${house}” to wipe it`}
          value={name}
          onChange={setName}
          fault={faultsOf(wipe.error).name}
          className="min-w-48 flex-1"
          required
        />
        <Button look="warn" type="submit" disabled={wipe.isPending || name !== house}>
          Wipe the demo
        </Button>
      </form>
      <Trouble error={restOf(wipe.error, ["name"])} />
    </section>
  );
}
