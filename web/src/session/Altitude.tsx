import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../api/client";
import { ask } from "../api/queries";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Trouble } from "../parts/Notice";
import { typed } from "../parts/numbers";
import { canLead, useSession } from "./session";

/** How high the house stands: what boils there boils cooler. Batches that are under way keep what they were started with. */
function Altitude() {
  const session = useSession();
  const queries = useQueryClient();
  const [text, setText] = useState(session.altitude_m == null ? "" : String(session.altitude_m));
  const [fault, setFault] = useState<string>();
  const set = useMutation({
    mutationFn: (altitude_m: number) => unwrap(client.PUT("/api/house/altitude", { body: { altitude_m } })),
    onSuccess: (next) => {
      queries.setQueryData(ask.session().queryKey, next);
      setText(String(next.altitude_m));
    },
  });
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const metres = typed(text);
        setFault(metres === null ? "Write figures, such as 650." : undefined);
        if (metres !== null) set.mutate(metres);
      }}
    >
      <Field
        label="Height above the sea"
        unit="m"
        inputMode="decimal"
        className="w-48"
        value={text}
        onChange={setText}
        fault={fault}
        placeholder="650"
      />
      <Button type="submit" disabled={set.isPending}>
        {set.isSuccess ? "Kept" : "Keep it"}
      </Button>
      {session.altitude_m == null ? (
        <Button onClick={() => set.mutate(0)} disabled={set.isPending}>
          We are near the sea
        </Button>
      ) : null}
      <div className="basis-full">
        <Trouble error={set.error} />
      </div>
    </form>
  );
}

/** Asked of the lead once, until it is answered. */
export function AltitudeAsked() {
  const session = useSession();
  if (!canLead(session) || session.altitude_m != null) return null;
  return (
    <section className="tray mt-3.5 grid gap-2 p-4" aria-label="How high the house stands">
      <h2 className="text-[20px]">How high does {session.house} stand?</h2>
      <p className="text-soft">
        Water boils a degree cooler for every 300 m, and Ulsek works with that. It is asked once; it stands under your name.
      </p>
      <Altitude />
    </section>
  );
}
