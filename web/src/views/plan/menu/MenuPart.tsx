import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Choice } from "../../../parts/Choice";
import { dateIn } from "../../../parts/days";
import { Field } from "../../../parts/Field";
import { Empty, NotFetched, Shape } from "../../../parts/Notice";
import { canLead, useMoney, useSession } from "../../../session/session";
import { AllergenSheet } from "./AllergenSheet";
import { DrinkForm } from "./DrinkForm";
import { dates } from "./dates";

type Row = Schemas["MenuRow"];

/** The drinks of a day with what each costs to pour, and the allergen sheet of all of them. */
export function MenuPart({ tabs }: { tabs: ReactNode }) {
  const session = useSession();
  const today = dateIn(session, Date.now());
  const [day, setDay] = useState(today);
  const menu = useQuery(ask.planMenu(day || today));
  const [open, setOpen] = useState("");
  const lead = canLead(session);
  const rows = menu.data?.rows ?? [];
  const adding = menu.data?.addable.find((one) => one.spec === open);
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <h1 className="text-[32px]">The menu</h1>
        {tabs}
      </div>
      <section className="tray p-4 md:p-5" aria-label="Drinks">
        <div className="mb-2 flex flex-wrap items-end justify-between gap-3">
          <div>
            <h2 className="text-[20px]">What a drink costs to pour</h2>
            <p className="text-[15px] text-soft">
              At today's prices, with what is spilled and the garnish, of the price without tax.
              {menu.data?.without_price ? ` ${menu.data.without_price} of this day without a price.` : ""}
            </p>
          </div>
          <div className="flex flex-wrap items-end gap-3">
            <Field label="The menu of" type="date" value={day} onChange={setDay} className="w-44" />
            {lead && menu.data?.addable.length ? (
              <Choice
                label="A drink that is not on it"
                value={adding ? open : ""}
                options={menu.data.addable.map((one) => ({ value: one.spec, label: one.name }))}
                onChange={setOpen}
              />
            ) : null}
          </div>
        </div>
        {menu.isPending ? <Shape rows={5} /> : null}
        <NotFetched questions={[menu]} />
        {adding && menu.data ? (
          <DrinkForm key={adding.spec} spec={adding.spec} name={adding.name} menu={menu.data} today={today} onClose={() => setOpen("")} />
        ) : null}
        {menu.data && !rows.length ? (
          <Empty title="No drink is on the menu">
            {menu.data.addable.length
              ? "Choose one above, and say what it costs."
              : "Publish a spec of the family of drinks; then it can be put here."}
          </Empty>
        ) : null}
        <ul>
          {rows.map((row) => (
            <li key={row.spec} className="border-t border-line first:border-t-0">
              <DrinkLine row={row} lead={lead} open={open === row.spec} onOpen={() => setOpen(open === row.spec ? "" : row.spec)} />
              {open === row.spec && menu.data ? (
                <DrinkForm
                  key={JSON.stringify(row)}
                  spec={row.spec}
                  name={row.name}
                  row={row}
                  menu={menu.data}
                  today={today}
                  onClose={() => setOpen("")}
                />
              ) : null}
            </li>
          ))}
        </ul>
      </section>
      <AllergenSheet day={day || today} />
    </>
  );
}

function DrinkLine({ row, lead, open, onOpen }: { row: Row; lead: boolean; open: boolean; onOpen: () => void }) {
  const money = useMoney();
  const { cost } = row;
  const words = (
    <>
      <span className="block text-[17px] font-bold">{row.name}</span>
      <span className="block text-[14px] text-soft">
        {dates(row)}
        {row.garnish ? ` · ${row.garnish}` : ""}
        {/* Where there is room the price has a column of its own. */}
        <span className="md:hidden"> · {row.price === null ? "no price" : money(row.price)}</span>
        {row.is_on ? "" : " · not on this day"}
        {row.withdrawn ? <b className="text-warn"> · its spec was withdrawn</b> : null}
      </span>
    </>
  );
  return (
    <div className="grid min-h-16 grid-cols-[minmax(0,1fr)_auto] items-center gap-x-5 gap-y-1 py-2 md:grid-cols-[minmax(0,5fr)_minmax(0,6fr)_96px_96px]">
      {lead ? (
        <button type="button" aria-expanded={open} className="min-h-11 rounded-lg text-left hover:underline" onClick={onOpen}>
          {words}
        </button>
      ) : (
        <div>{words}</div>
      )}
      <div className="col-span-2 row-start-2 md:col-auto md:row-auto">
        {cost ? <Shares cost={cost} /> : <p className="text-[15px] text-warn">Its spec cannot be worked out.</p>}
        {cost ? (
          <p className="text-[14px] text-soft">
            {money(cost.materials)} in it{Number(cost.spill) ? `, ${money(cost.spill)} spilled` : ""}
            {Number(cost.garnish) ? `, ${money(cost.garnish)} on it` : ""}
          </p>
        ) : null}
        {row.unpriced.length ? (
          <p className="text-[14px] font-semibold text-warn">Taken as free, for want of a price: {row.unpriced.join(", ")}</p>
        ) : null}
      </div>
      <p className="col-start-2 row-start-1 text-right text-[15px] md:col-auto md:row-auto">
        {cost ? (
          <>
            <b className="figures block text-[20px]">{cost.share_percent === null ? money(cost.total) : `${cost.share_percent} %`}</b>
            <span className="text-soft">{cost.share_percent === null ? "to pour" : `${money(cost.total)} to pour`}</span>
          </>
        ) : null}
      </p>
      <p className="hidden text-right text-[15px] md:block">
        {row.price === null ? (
          <b className="text-warn">no price</b>
        ) : (
          <>
            <b className="figures block text-[17px]">{money(row.price)}</b>
            <span className="text-soft">{cost?.net_price ? `${money(cost.net_price)} net` : ""}</span>
          </>
        )}
      </p>
    </div>
  );
}

/** How much of the price without tax goes into the glass, is spilled, and stands on it. */
function Shares({ cost }: { cost: NonNullable<Row["cost"]> }) {
  if (cost.net_price === null) return null;
  const whole = Number(cost.net_price);
  const [inIt, spilled, onIt] = [cost.materials, cost.spill, cost.garnish].map((part) => (100 * Number(part)) / whole) as [
    number,
    number,
    number,
  ];
  return (
    <svg viewBox="0 0 100 6" preserveAspectRatio="none" aria-hidden="true" className="mb-1 h-2.5 w-full rounded-full bg-line">
      <rect width={inIt} height="6" className="fill-rim" />
      <rect x={inIt} width={spilled} height="6" className="fill-warn" />
      <rect x={inIt + spilled} width={onIt} height="6" className="fill-soft" />
    </svg>
  );
}
