import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import { HandOutOrder } from "./HandOutOrder";
import { kilos } from "./kilos";
import { useOrders } from "./useOrders";

/** An order as it is placed: how many packs of each, then the ways in which it goes out. */
export function OrderSheet({ order, onClose }: { order: Schemas["ToOrder"]; onClose: () => void }) {
  const { place } = useOrders();
  const [packs, setPacks] = useState<Record<string, string>>(() =>
    Object.fromEntries(order.lines.map((line) => [line.material, `${line.packs}`])),
  );
  const counts = Object.entries(packs).map(([key, text]) => [key, typed(text)] as const);
  const read = counts.every(([, count]) => count !== null && Number.isInteger(count));
  const faults = faultsOf(place.error);
  return (
    <Sheet
      open
      onClose={onClose}
      title={`Order from ${order.supplier}`}
      about="Once it is written down the list counts on it, and it is not ordered twice. Sending it is up to you."
    >
      {place.data ? (
        <HandOutOrder id={place.data.id} />
      ) : (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            const wanted = counts.filter(([, count]) => count !== 0) as [string, number][];
            place.mutate({ supplier: order.supplier, packs: Object.fromEntries(wanted) });
          }}
        >
          {order.lines.map((line) => (
            <div key={line.material} className="flex items-start justify-between gap-3">
              <p>
                <b>{line.name}</b>
                <span className="block text-[15px] text-soft">
                  {kilos(line.lacking_g)} lacking · packs of {kilos(line.pack_g)}
                </span>
              </p>
              <Field
                label={`Packs of ${line.name}`}
                hideLabel
                unit="packs"
                inputMode="numeric"
                className="w-32 shrink-0"
                value={packs[line.material] ?? ""}
                onChange={(value) => setPacks({ ...packs, [line.material]: value })}
                fault={faults[`packs/${line.material}`]}
              />
            </div>
          ))}
          {read ? null : <p className="text-[15px] font-semibold text-warn">Write whole packs; 0 for what is not ordered.</p>}
          <Trouble
            error={restOf(
              place.error,
              order.lines.map((line) => `packs/${line.material}`),
            )}
          />
          <Button look="main" type="submit" disabled={!read || place.isPending} className="min-h-14 rounded-xl text-[17px]">
            It is ordered
          </Button>
        </form>
      )}
    </Sheet>
  );
}
