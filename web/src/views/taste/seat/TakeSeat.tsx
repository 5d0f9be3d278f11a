import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { takeSeat } from "../../../sync/seat";
import { Frame } from "./Frame";

/** A code becomes a seat: by link only the name is asked. */
export function TakeSeat({ code, onTaken }: { code: string; onTaken: () => void }) {
  const [form, setForm] = useState({ code, name: "" });
  const take = useMutation({
    mutationFn: () => takeSeat(form.code, form.name),
    onSuccess: () => {
      // The code has done its work, and need not stand in the address.
      history.replaceState(null, "", location.pathname);
      onTaken();
    },
  });
  const faults = faultsOf(take.error);
  return (
    <Frame left="Ulsek" right="a tasting">
      <form
        className="flex flex-1 flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          take.mutate();
        }}
      >
        <div className="tray grid gap-4 p-4">
          <h1 className="text-[28px]">Take a seat</h1>
          {code ? null : (
            <Field
              label="The eight letters of the tasting"
              placeholder="abcd-efgh"
              autoCapitalize="none"
              spellCheck={false}
              value={form.code}
              onChange={(typed) => setForm({ ...form, code: typed })}
              fault={faults.code}
            />
          )}
          <Field
            label="Your name, as they call you here"
            value={form.name}
            onChange={(name) => setForm({ ...form, name })}
            fault={faults.name}
          />
          <p className="text-[15px] text-soft">It says whose answers are whose. A guest may take any name.</p>
          <Trouble error={restOf(take.error, code ? ["name"] : ["name", "code"])} />
        </div>
        <Button look="main" size="bench" className="mt-auto !min-h-16 !text-[18px]" type="submit" disabled={take.isPending}>
          Sit down
        </Button>
      </form>
    </Frame>
  );
}
