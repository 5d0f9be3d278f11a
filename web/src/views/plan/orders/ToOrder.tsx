import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { clock, day } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { kilos } from "./kilos";
import { OrderSheet } from "./OrderSheet";

/** What has to be ordered for the list, by supplier and cut-off. */
export function ToOrder({ orders, may }: { orders: readonly Schemas["ToOrder"][]; may: boolean }) {
  const { zone, currency } = useSession();
  const [open, setOpen] = useState<Schemas["ToOrder"] | null>(null);
  return (
    <section className="tray p-4" aria-label="To order">
      <h2 className="mb-1 text-[20px]">To order</h2>
      {orders.length === 0 ? <p className="text-soft">Everything that the list is made of is here or on its way.</p> : null}
      {orders.map((order) => (
        <div key={order.supplier} className="border-t border-line py-2 first:border-t-0">
          <p className="flex flex-wrap justify-between gap-x-3 text-[16px]">
            <b>{order.supplier}</b>
            <b className={order.is_today ? "text-warn" : ""}>
              {order.order_by
                ? `${order.is_today ? "today" : day(order.order_by, zone)} until ${clock(order.order_by, zone)}`
                : "comes on no day"}
            </b>
          </p>
          <ul className="text-[15px]">
            {order.lines.map((line) => (
              <li key={line.material} className="flex flex-wrap justify-between gap-x-3">
                <span>
                  {line.packs} × {kilos(line.pack_g)} {line.name}
                </span>
                <span className="text-soft">
                  {kilos(line.here_g)} here · {kilos(line.wanted_g)} wanted{line.price ? ` · ${line.price} ${currency}` : ""}
                </span>
                <span className="w-full text-soft">for {line.needed_for.join(", ")}</span>
              </li>
            ))}
          </ul>
          <div className="mt-1 flex flex-wrap items-center justify-between gap-3">
            <p className="text-[14px] text-soft">{order.arrives ? `comes ${day(order.arrives, zone)}` : ""}</p>
            {may ? (
              <Button aria-label={`Order from ${order.supplier}`} onClick={() => setOpen(order)}>
                Order it
              </Button>
            ) : null}
          </div>
        </div>
      ))}
      <p className="mt-2 flex flex-wrap items-center gap-x-2 text-[14px] text-soft">
        By what is here and who brought it last.
        <Link to="/plan/suppliers" className="inline-flex min-h-11 items-center font-semibold text-rim underline">
          When they deliver
        </Link>
      </p>
      {open ? <OrderSheet key={open.supplier} order={open} onClose={() => setOpen(null)} /> : null}
    </section>
  );
}
