import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { rowsOf } from "../../api/lists";
import { ask } from "../../api/queries";
import { canMake, useMoney, useSession } from "../../app/session";
import { Button } from "../../parts/Button";
import { Figure } from "../../parts/Figure";
import { More } from "../../parts/More";
import { Empty, NotFetched, Notice, Shape } from "../../parts/Notice";
import { figure, GAP } from "../../parts/numbers";
import { day } from "../../parts/say";
import { CountDelivery } from "./CountDelivery";
import { LabelDelivery } from "./LabelDelivery";
import { Makeup } from "./Makeup";
import { ReadDelivery } from "./ReadDelivery";
import { ReceiveDelivery } from "./ReceiveDelivery";
import { WhereItWent } from "./WhereItWent";

type Stock = Schemas["StockOut"];
/** The shelves of Stores, in the order in which a bar reaches for them. */
const WORDS: Record<string, string> = {
  juice: "Juices",
  fruit: "Fruit",
  vegetable: "Vegetables",
  puree: "Purées",
  sweetener: "Sugars",
  acid: "Acids",
  vinegar: "Vinegars",
  peel: "Peel",
  leaf: "Leaves",
  herb: "Herbs",
  flower: "Flowers",
  spice: "Spices",
  bark: "Barks",
  root: "Roots",
  nut: "Nuts",
  grain: "Grains",
  spirit: "Spirits",
  wine: "Wines and beers",
  dairy: "Dairy",
  egg: "Eggs",
  fat: "Fats",
  oil: "Oils",
  gum: "Gums",
  fining: "Finings",
  salt: "Salts",
  water: "Water",
};
const ORDER = Object.keys(WORDS);

const unreadWords = (count: number) =>
  count ? `${count === 1 ? "one delivery" : `${count} deliveries`} nobody has read yet` : "every delivery in use has been read";

/** What the house has: every delivery with what is in it, read or typical; products of one material side by side. */
export function StoresView() {
  const session = useSession();
  const [gone, setGone] = useState(false);
  const onShelf = useQuery({ ...ask.stock(), enabled: !gone });
  const past = useInfiniteQuery({ ...ask.goneStock(), enabled: gone });
  const stock = gone ? past : onShelf;
  const [counting, setCounting] = useState<Stock | null>(null);
  const [reading, setReading] = useState<Stock | null>(null);
  const [tracing, setTracing] = useState<Stock | null>(null);
  const [receiving, setReceiving] = useState(false);
  const [labelling, setLabelling] = useState<Stock | null>(null);
  const { code } = useParams();
  const go = useNavigate();
  if (stock.isPending) return <Shape rows={7} title="Stores" />;
  const items = gone ? rowsOf(past.data) : (onShelf.data ?? []);
  const kinds = [...new Set(items.map((item) => item.view.kind))].sort(
    (a, b) => ((ORDER.indexOf(a) + 99) % 99) - ((ORDER.indexOf(b) + 99) % 99),
  );
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1 className="text-[32px]">Stores</h1>
          <p className="text-soft">
            {gone
              ? "used up, tossed or recalled; the newest stands first"
              : !stock.data || items.length === 0
                ? ""
                : unreadWords(items.filter((item) => item.view.readable && !item.view.brix_read && item.current).length)}
          </p>
        </div>
        <div className="ml-auto flex flex-wrap justify-end gap-3">
          <Button aria-pressed={gone} look={gone ? "main" : "plain"} onClick={() => setGone(!gone)}>
            What is gone
          </Button>
          <a
            href="/api/materials.csv"
            download
            className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
          >
            Materials as a table
          </a>
          {canMake(session) ? (
            <Button look="main" onClick={() => setReceiving(true)}>
              Take in a delivery
            </Button>
          ) : null}
        </div>
      </div>
      <NotFetched questions={[stock]} />
      {code && !items.some((item) => item.code === code.toUpperCase()) ? (
        <Notice severity="check">
          {gone
            ? `There is no delivery ${code.toUpperCase()} here.`
            : `${code.toUpperCase()} is not on the shelf: look under “What is gone”.`}
        </Notice>
      ) : null}
      {items.length === 0 && stock.data ? (
        <Empty title={gone ? "Nothing is gone" : "The shelves are empty"}>
          {gone
            ? "What is used up, tossed or recalled will stand here."
            : "Deliveries stand here with what is in them. Take the first one in."}
        </Empty>
      ) : null}
      <div className="grid gap-4">
        {kinds.map((kind) => (
          <section key={kind} className="tray p-4 md:p-5">
            <h2 className="mb-1 text-[20px]">{WORDS[kind] ?? kind}</h2>
            <ul>
              {groups(items.filter((item) => item.view.kind === kind)).map((group) => (
                <li key={group.key} className="border-t border-line py-2">
                  {group.items.length > 1 ? <h3 className="pt-1 text-[16px]">{group.name}, side by side</h3> : null}
                  <div>
                    {group.items.map((item) => (
                      <Row
                        key={item.id}
                        item={item}
                        alone={group.items.length === 1}
                        mayRead={canMake(session)}
                        zone={session.zone}
                        onRead={() => setReading(item)}
                        onTrace={() => setTracing(item)}
                        onCount={() => setCounting(item)}
                        onLabel={() => setLabelling(item)}
                      />
                    ))}
                  </div>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
      {gone ? <More list={past} /> : null}
      <ReadDelivery item={reading} onClose={() => setReading(null)} />
      <CountDelivery item={counting} onClose={() => setCounting(null)} />
      <WhereItWent
        item={tracing ?? items.find((item) => item.code === code?.toUpperCase()) ?? null}
        onClose={() => {
          setTracing(null);
          if (code) void go("/stores", { replace: true });
        }}
      />
      <ReceiveDelivery
        open={receiving}
        onClose={() => setReceiving(false)}
        onReceived={(item) => {
          setReceiving(false);
          setLabelling(item);
        }}
      />
      <LabelDelivery key={labelling?.id} item={labelling} onClose={() => setLabelling(null)} />
    </main>
  );
}

function groups(items: readonly Stock[]) {
  const found = new Map<string, { key: string; name: string; items: Stock[] }>();
  for (const item of items) {
    const group = found.get(item.material) ?? { key: item.material, name: item.view.name, items: [] };
    group.items.push(item);
    found.set(item.material, group);
  }
  return [...found.values()];
}

interface RowProps {
  item: Stock;
  alone: boolean;
  mayRead: boolean;
  zone: string;
  onRead: () => void;
  onTrace: () => void;
  onCount: () => void;
  onLabel: () => void;
}

function Row({ item, alone, mayRead, zone, onRead, onTrace, onCount, onLabel }: RowProps) {
  const money = useMoney();
  const { brix, acid_g_100ml: acid } = item.view.figures;
  const reading = item.view.figures.brix_reading;
  const left = Number(item.remaining_g);
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 py-2 md:grid-cols-[minmax(0,1fr)_84px_130px_170px] xl:grid-cols-[minmax(0,1.5fr)_84px_130px_160px_minmax(0,1fr)_256px]">
      <div className="min-w-0">
        <p className="font-bold">
          {item.product}
          {item.recalled ? <span className="ml-2 text-[14px] text-warn">recalled: {item.recalled}</span> : null}
          {item.current && !alone ? (
            <span className="ml-2 rounded-full border border-rim px-2 text-[14px] font-normal text-rim">in use</span>
          ) : null}
        </p>
        <p className="text-[14px] text-soft">
          {item.supplier} · came {day(item.received_at, zone)} · <span className="figures">{item.code}</span>
          {item.form ? ` · ${item.form}` : ""}
          {item.colour ? ` · ${item.colour}` : ""}
        </p>
      </div>
      <Makeup bands={item.view.bands} name={item.product} />
      <div className="col-start-1 md:col-start-auto">
        {reading && item.view.readable ? (
          <Figure name="brix_reading" data={reading} read={item.view.brix_read} />
        ) : brix ? (
          <Figure name="brix" data={brix} />
        ) : null}
      </div>
      <div>{acid && item.view.readable ? <Figure name="acid_g_100ml" data={acid} read={item.view.acid_read} /> : null}</div>
      <p className="col-span-2 text-[14px] text-soft md:col-span-1">
        <span className="figures font-bold text-ink">{money(item.price_per_kg)}</span> a kilo
        {item.price_per_kg_solids ? (
          <>
            {" "}
            · <span className="figures text-ink">{money(item.price_per_kg_solids)}</span> per kg of solids
          </>
        ) : null}
        <span className={`block ${left < 0 ? "font-bold text-warn" : ""}`}>
          {figure(left, 0)}
          {GAP}g left{left < 0 ? ": count it" : ""}
        </span>
      </p>
      <div className="col-span-2 flex flex-wrap gap-x-1 md:col-span-3 xl:col-span-1 md:justify-end md:justify-self-end [&>button]:px-2.5">
        {item.view.readable && mayRead && !item.gone_at ? (
          <Button onClick={onRead}>{item.view.brix_read ? "Read again" : "Read this delivery"}</Button>
        ) : null}
        <Button look="quiet" onClick={onTrace} aria-label={`Where ${item.product} went`}>
          Where it went
        </Button>
        {mayRead && !item.recalled ? (
          <Button look="quiet" onClick={onCount} aria-label={`Count ${item.product}`}>
            Count
          </Button>
        ) : null}
        {mayRead && !item.gone_at ? (
          <Button look="quiet" onClick={onLabel} aria-label={`Label of ${item.product}`}>
            Label
          </Button>
        ) : null}
      </div>
    </div>
  );
}
