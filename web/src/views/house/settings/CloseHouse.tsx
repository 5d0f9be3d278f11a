import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Notice, Trouble } from "../../../parts/Notice";
import { moment } from "../../../parts/say";

/** The house is deleted for good after a waiting time, in which any lead calls it off. */
export function CloseHouse({ house }: { house: Schemas["HouseOut"] }) {
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const settled = (kept: Schemas["HouseOut"]) => {
    queries.setQueryData(ask.house().queryKey, kept);
    void queries.invalidateQueries({ queryKey: ask.session().queryKey });
    setOpen(false);
    setName("");
    setPassword("");
  };
  const close = useMutation({
    mutationFn: () => unwrap(client.POST("/api/house/closing", { body: { name, password } })),
    onSuccess: settled,
  });
  const keep = useMutation({
    mutationFn: () => unwrap(client.DELETE("/api/house/closing")),
    onSuccess: settled,
  });
  return (
    <section className="tray p-5" aria-label="Close the house">
      <h2 className="text-[20px]">Close the house</h2>
      {house.closes_at ? (
        <>
          <Notice severity="stop" live>
            {house.name} is deleted for good on {moment(house.closes_at, house.zone)}, with everything in it.
          </Notice>
          <Trouble error={keep.error} />
          <Button look="main" className="mt-3" disabled={keep.isPending} onClick={() => keep.mutate()}>
            Keep the house
          </Button>
        </>
      ) : (
        <>
          <p className="mb-3 text-soft">
            It goes on for {house.waiting_days} days, everybody is told, and any lead can call it off. Then everything in it is gone for
            good: take its archive first.
          </p>
          {open ? (
            <form
              className="grid gap-3"
              onSubmit={(event) => {
                event.preventDefault();
                close.mutate();
              }}
            >
              <Field
                label={`Write “${house.name}” to close it`}
                value={name}
                onChange={setName}
                fault={faultsOf(close.error).name}
                required
              />
              <Field
                label="Your password"
                type="password"
                autoComplete="current-password"
                value={password}
                onChange={setPassword}
                required
              />
              <Trouble error={restOf(close.error, ["name"])} />
              <div className="flex flex-wrap gap-2">
                <Button look="warn" type="submit" disabled={close.isPending || name !== house.name || !password}>
                  Delete it in {house.waiting_days} days
                </Button>
                <Button
                  onClick={() => {
                    close.reset();
                    setOpen(false);
                  }}
                >
                  Back
                </Button>
              </div>
            </form>
          ) : (
            <Button look="warn" onClick={() => setOpen(true)}>
              Close the house …
            </Button>
          )}
        </>
      )}
    </section>
  );
}
