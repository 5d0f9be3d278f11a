import { Button } from "../../../parts/Button";
import { Figure } from "../../../parts/Figure";
import { day } from "../../../parts/say";
import { useMoney } from "../../../session/session";
import { Makeup } from "./Makeup";
import { actsOn, leftWords, type Stock, type StockAct } from "./shelves";

export interface StockRowProps {
  item: Stock;
  /** No other delivery of the material stands beside it. */
  alone: boolean;
  mayMake: boolean;
  zone: string;
  onAct: (act: StockAct, item: Stock) => void;
}

const WORDS: Record<StockAct, (item: Stock) => string> = {
  read: (item) => (item.view.brix_read ? "Read again" : "Read this delivery"),
  trace: () => "Where it went",
  count: () => "Count",
  label: () => "Label",
};
/** Said whole to who hears the button without its row. */
const LABELS: Record<Exclude<StockAct, "read">, (item: Stock) => string> = {
  trace: (item) => `Where ${item.product} went`,
  count: (item) => `Count ${item.product}`,
  label: (item) => `Label of ${item.product}`,
};

/** One delivery: what it is, what is in it, what it costs, what is left, and what may be done with it. */
export function StockRow({ item, alone, mayMake, zone, onAct }: StockRowProps) {
  const money = useMoney();
  const { brix, acid_g_100ml: acid } = item.view.figures;
  const reading = item.view.figures.brix_reading;
  const left = leftWords(item);
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 py-2">
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
          {item.place ? ` · ${item.place}` : ""}
          {item.use_by ? <b className={item.expires_soon ? "text-warn" : "font-normal"}>{` · until ${day(item.use_by)}`}</b> : null}
        </p>
      </div>
      <Makeup bands={item.view.bands} name={item.product} />
      <div className="col-start-1">
        {reading && item.view.readable ? (
          <Figure name="brix_reading" data={reading} read={item.view.brix_read} />
        ) : brix ? (
          <Figure name="brix" data={brix} />
        ) : null}
      </div>
      <div>{acid && item.view.readable ? <Figure name="acid_g_100ml" data={acid} read={item.view.acid_read} /> : null}</div>
      <p className="col-span-2 text-[14px] text-soft">
        {item.price_per_kg === null ? (
          "price not known"
        ) : (
          <>
            <span className="figures font-bold text-ink">{money(item.price_per_kg)}</span> a kilo
          </>
        )}
        {item.price_per_kg_solids ? (
          <>
            {" "}
            · <span className="figures text-ink">{money(item.price_per_kg_solids)}</span> per kg of solids
          </>
        ) : null}
        <span className={`block ${left.short ? "font-bold text-warn" : ""}`}>{left.words}</span>
      </p>
      <div className="col-span-2 flex flex-wrap gap-x-1 [&>button]:px-2.5">
        {actsOn(item, mayMake).map((act) => (
          <Button
            key={act}
            look={act === "read" ? "plain" : "quiet"}
            onClick={() => onAct(act, item)}
            {...(act === "read" ? {} : { "aria-label": LABELS[act](item) })}
          >
            {WORDS[act](item)}
          </Button>
        ))}
      </div>
    </div>
  );
}
