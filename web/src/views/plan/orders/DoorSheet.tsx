import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import { useSession } from "../../../session/session";
import { kilos } from "./kilos";
import { useOrders } from "./useOrders";

interface Typed {
  packs: string;
  price: string;
  refused: string;
}

/** What came of an order, at the door: short, over, at another price, refused. All of it as ordered is one press. */
export function DoorSheet({ order, onClose }: { order: Schemas["PlacedOrderOut"]; onClose: () => void }) {
  const { currency } = useSession();
  const { takeIn } = useOrders();
  const [said, setSaid] = useState<Typed[]>(() =>
    order.lines.map((line) => ({ packs: `${line.packs}`, price: line.price ?? "", refused: "" })),
  );
  const set = (n: number, part: keyof Typed, value: string) => setSaid(said.map((one, at) => (at === n ? { ...one, [part]: value } : one)));
  const counts = said.map((one) => typed(one.packs));
  const read =
    counts.every((count) => count !== null && Number.isInteger(count)) && said.every((one) => !one.price || typed(one.price) !== null);
  const faults = faultsOf(takeIn.error);
  const places = order.lines.flatMap((_, n) => (["packs", "price", "refused"] as const).map((part) => `lines/${n}/${part}`));
  return (
    <Sheet
      open
      onClose={onClose}
      title={`What came from ${order.supplier}?`}
      about="It goes into Stores as it came. What is lacking is not counted on any more: the list wants it anew."
    >
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          const lines = order.lines.map((line, n) => ({
            line: line.id,
            packs: counts[n] ?? 0,
            price: said[n]?.price ? said[n].price.trim().replace(",", ".") : null,
            refused: said[n]?.refused ?? "",
          }));
          takeIn.mutate({ order_id: order.id, lines }, { onSuccess: onClose });
        }}
      >
        {order.lines.map((line, n) => (
          <fieldset key={line.id} className="grid gap-2 border-t border-line pt-2 first:border-t-0">
            <legend className="float-left text-[17px] font-bold">
              {line.product}{" "}
              <span className="font-normal text-soft">
                {line.packs} × {kilos(line.pack_g)} ordered
              </span>
            </legend>
            <div className="flex flex-wrap items-start gap-3">
              <Field
                label="Packs that are taken"
                aria-label={`Packs of ${line.product} that are taken`}
                inputMode="numeric"
                className="w-40"
                value={said[n]?.packs ?? ""}
                onChange={(value) => set(n, "packs", value)}
                fault={faults[`lines/${n}/packs`]}
              />
              <Field
                label="Price of a pack"
                aria-label={`Price of a pack of ${line.product}`}
                unit={currency}
                inputMode="decimal"
                className="w-40"
                value={said[n]?.price ?? ""}
                onChange={(value) => set(n, "price", value)}
                fault={faults[`lines/${n}/price`]}
              />
              {(counts[n] ?? line.packs) < line.packs ? (
                <Field
                  label="Refused, because"
                  aria-label={`Why ${line.product} was refused`}
                  placeholder="empty: it did not come"
                  className="w-64"
                  value={said[n]?.refused ?? ""}
                  onChange={(value) => set(n, "refused", value)}
                  fault={faults[`lines/${n}/refused`]}
                />
              ) : null}
            </div>
          </fieldset>
        ))}
        {read ? null : <p className="text-[15px] font-semibold text-warn">Write whole packs, 0 for none, and prices as numbers.</p>}
        <Trouble error={restOf(takeIn.error, places)} />
        <Button look="main" type="submit" disabled={!read || takeIn.isPending} className="min-h-14 rounded-xl text-[17px]">
          Take it in
        </Button>
      </form>
    </Sheet>
  );
}
