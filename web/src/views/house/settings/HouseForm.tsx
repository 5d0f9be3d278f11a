import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { faultsOf, restOf } from "../../../parts/faults";
import { HouseFields } from "../../../parts/HouseFields";
import { houseSent, houseTyped } from "../../../parts/houseFields";
import { Trouble } from "../../../parts/Notice";

const PARTS = ["name", "currency", "zone", "altitude_m", "service_from", "service_until", "day_turns"];

/** The house itself: name, place, clock, hours. Batches that are under way keep the rules that they were started with. */
export function HouseForm({ house }: { house: Schemas["HouseOut"] }) {
  const queries = useQueryClient();
  const [form, setForm] = useState(() => houseTyped(house));
  const [fault, setFault] = useState<Record<string, string>>({});
  const keep = useMutation({
    mutationFn: async () => {
      const sent = houseSent(form);
      setFault(sent ? {} : { altitude_m: "Write figures, such as 650." });
      return sent ? await unwrap(client.PUT("/api/house", { body: sent })) : null;
    },
    onSuccess: (kept) => {
      if (!kept) return;
      setForm(houseTyped(kept));
      queries.setQueryData(ask.house().queryKey, kept);
      // What it is stands on every screen: currency, clock, the day's turn.
      void queries.invalidateQueries();
    },
  });
  const faults = { ...faultsOf(keep.error), ...fault };
  return (
    <form
      className="tray grid gap-4 p-5"
      aria-label="What the house is"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <h2 className="text-[20px]">{house.name}</h2>
      {(["who", "where", "when"] as const).map((part) => (
        <HouseFields
          key={part}
          part={part}
          house={form}
          onChange={(next) => {
            keep.reset();
            setForm(next);
          }}
          faults={faults}
        />
      ))}
      <p className="text-[14px] text-soft">Batches that are under way keep the height and the rules that they were started with.</p>
      <Trouble error={restOf(keep.error, PARTS)} />
      <Button look="main" type="submit" className="justify-self-start" disabled={keep.isPending}>
        {keep.isSuccess && keep.data ? "Kept" : "Keep it"}
      </Button>
    </form>
  );
}
