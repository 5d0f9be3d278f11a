import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { NotFetched, Trouble } from "../../../parts/Notice";
import { clock, day } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { DoorSheet } from "./DoorSheet";
import { kilos } from "./kilos";
import { useOrders } from "./useOrders";

type Order = Schemas["PlacedOrderOut"];
const LAST_SHOWN = 3;

/** The orders that are still to come, and what came of the last ones. */
export function OnItsWay({ may }: { may: boolean }) {
  const { zone } = useSession();
  const found = useQuery(ask.planOrders());
  const { drop } = useOrders();
  const [door, setDoor] = useState<Order | null>(null);
  const open = found.data?.filter((one) => !one.closed_at) ?? [];
  const closed = found.data?.filter((one) => one.closed_at && one.discrepancies.length).slice(-LAST_SHOWN) ?? [];
  if (!found.error && !open.length && !closed.length) return null;
  return (
    <section className="tray p-4" aria-label="On its way">
      <h2 className="mb-1 text-[20px]">On its way</h2>
      <NotFetched questions={[found]} />
      {open.map((order) => (
        <div key={order.id} className="border-t border-line py-2 first:border-t-0">
          <p className="flex flex-wrap justify-between gap-x-3 text-[16px]">
            <b>{order.supplier}</b>
            <span className={order.is_late ? "font-bold text-warn" : "text-soft"}>
              {order.arrives
                ? `${order.is_late ? "should be here since" : "comes"} ${day(order.arrives, zone)}, ${clock(order.arrives, zone)}`
                : ""}
            </span>
          </p>
          <ul className="text-[15px]">
            {order.lines.map((line) => (
              <li key={line.id}>
                {line.packs} × {kilos(line.pack_g)} {line.product}
              </li>
            ))}
          </ul>
          <div className="mt-1 flex flex-wrap items-center gap-2">
            {may ? (
              <>
                <Button aria-label={`Take in what came from ${order.supplier}`} onClick={() => setDoor(order)}>
                  Take it in
                </Button>
                <Button look="quiet" aria-label={`Take back the order from ${order.supplier}`} onClick={() => drop.mutate(order.id)}>
                  Take it back
                </Button>
              </>
            ) : null}
            <a
              className="inline-flex min-h-11 items-center px-1 font-semibold text-rim underline"
              href={`/api/plan/orders/${order.id}/order.txt`}
              target="_blank"
              rel="noreferrer"
            >
              As text
            </a>
          </div>
        </div>
      ))}
      {closed.map((order) => (
        <div key={order.id} className="border-t border-line py-2 text-[15px] first:border-t-0">
          <b>{order.supplier}</b>{" "}
          <span className="text-soft">came {order.closed_at ? `${day(order.closed_at, zone)}, ${clock(order.closed_at, zone)}` : ""}</span>
          <ul>
            {order.discrepancies.map((said) => (
              <li key={said} className="text-warn">
                {said}
              </li>
            ))}
          </ul>
        </div>
      ))}
      <Trouble error={drop.error} />
      {door ? <DoorSheet key={door.id} order={door} onClose={() => setDoor(null)} /> : null}
    </section>
  );
}
