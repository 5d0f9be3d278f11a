import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { dayWord } from "../../parts/days";
import { figure, GAP } from "../../parts/numbers";
import { clock, day, weekday } from "../../parts/say";
import { canMake, useSession } from "../../session/session";
import { kilos } from "../plan/orders/kilos";
import { OnItsWay } from "../plan/orders/OnItsWay";
import type { Stock } from "./shelf/shelves";

const SHOWN = 5;

/** What has to be decided today: what runs out, what turns, what nobody has read, and what is on its way. */
export function Decide({ items, now, onRead }: { items: readonly Stock[]; now: number; onRead: (item: Stock) => void }) {
  const session = useSession();
  const unread = items.filter((item) => item.current && item.view.readable && !item.view.brix_read);
  return (
    <div className="mb-4 grid grid-cols-[minmax(0,1fr)] items-start gap-3.5 empty:hidden md:grid-cols-[repeat(auto-fit,minmax(270px,1fr))]">
      <RunsOut />
      <Turns items={items} now={now} />
      {unread.length ? (
        <Card name="Not read" more={unread.length - SHOWN}>
          {unread.slice(0, SHOWN).map((item) => (
            <Row key={item.id} name={item.product} about={`${item.supplier} · ${day(item.received_at, session.zone)}`}>
              {canMake(session) ? (
                <Button look="quiet" aria-label={`Read ${item.product} of ${item.supplier}`} onClick={() => onRead(item)}>
                  Read
                </Button>
              ) : null}
            </Row>
          ))}
        </Card>
      ) : null}
      <OnItsWay may={canMake(session)} />
    </div>
  );
}

function Card({ name, more, children }: { name: string; more: number; children: ReactNode }) {
  return (
    <section className="tray p-4" aria-label={name}>
      <h2 className="mb-1 text-[20px]">{name}</h2>
      <ul>{children}</ul>
      {more > 0 ? <p className="border-t border-line pt-2 text-[14px] text-soft">and {more} more</p> : null}
    </section>
  );
}

function Row({ name, about, children }: { name: ReactNode; about: string; children?: ReactNode }) {
  return (
    <li className="flex min-h-12 items-center justify-between gap-x-3 border-t border-line py-1 first:border-t-0">
      <span className="min-w-0">
        <span className="block text-[15px] font-semibold">{name}</span>
        <span className="block text-[14px] text-soft">{about}</span>
      </span>
      {children}
    </li>
  );
}

/** What has to be ordered, and below it the preps that fall short of their par first. */
function RunsOut() {
  const { zone } = useSession();
  const today = useQuery(ask.planToday());
  if (!today.data) return null;
  const { orders, list } = today.data;
  const bought = orders.flatMap((order) => order.lines.map((line) => ({ order, line })));
  const made = list.runs_out.filter((one) => one.day);
  if (!bought.length && !made.length) return null;
  const room = Math.max(1, SHOWN - bought.length);
  return (
    <Card name="Runs out" more={Math.max(0, bought.length - SHOWN) + Math.max(0, made.length - room)}>
      {bought.slice(0, SHOWN).map(({ order, line }) => (
        <Row key={line.material} name={line.name} about={`${kilos(line.here_g)} here · ${kilos(line.wanted_g)} wanted`}>
          <Link to="/plan" className="inline-flex min-h-11 items-center text-right text-[14px] font-semibold text-rim underline">
            {order.order_by
              ? `order ${order.is_today ? `until ${clock(order.order_by, zone)}` : `by ${day(order.order_by, zone)}`}`
              : "order it"}
          </Link>
        </Row>
      ))}
      {made.slice(0, room).map((one) => (
        <Row key={one.key} name={one.name} about={`${figure(one.left_ml, 0)}${GAP}mL there · made here`}>
          <b className={`text-[14px] ${one.day === list.day ? "text-warn" : ""}`}>
            {one.day === list.day ? "today" : weekday(one.day ?? "")}
          </b>
        </Row>
      ))}
    </Card>
  );
}

/** Deliveries and bottles whose last day is near. */
function Turns({ items, now }: { items: readonly Stock[]; now: number }) {
  const session = useSession();
  const shift = useQuery(ask.shift());
  const bought = items.filter((item) => item.expires_soon && Number(item.remaining_g) > 0);
  const made = shift.data?.turns ?? [];
  const rows = [
    ...bought.map((item) => ({
      key: item.id,
      to: `/stores?find=${item.code}`,
      name: item.product,
      about: `${figure(Number(item.remaining_g), 0)}${GAP}g · ${item.supplier}`,
      until: item.use_by ?? "",
    })),
    ...made.map((lot) => ({
      key: lot.code,
      to: `/lots/${lot.code}`,
      name: lot.name,
      about: `${figure(lot.left, 0)}${GAP}${lot.unit} · ${lot.code}`,
      until: lot.use_by,
    })),
  ].sort((a, b) => a.until.localeCompare(b.until));
  if (!rows.length) return null;
  return (
    <Card name="Turns" more={rows.length - SHOWN}>
      {rows.slice(0, SHOWN).map((row) => (
        <Row
          key={row.key}
          name={
            <Link to={row.to} className="inline-flex min-h-11 items-center text-rim underline md:min-h-0">
              {row.name}
            </Link>
          }
          about={row.about}
        >
          <b className="shrink-0 text-[14px] text-warn">{dayWord(row.until, session, now)}</b>
        </Row>
      ))}
    </Card>
  );
}
