import { FIGURES } from "../../../api/figures";
import { figure, GAP } from "../../../parts/numbers";
import { day } from "../../../parts/say";
import { useMoney } from "../../../session/session";
import { Makeup } from "./Makeup";
import { StockRow, type StockRowProps } from "./StockRow";
import { aboutGroup, type Group, leftWords, totalLeft } from "./shelves";

interface MaterialLineProps extends Omit<StockRowProps, "item" | "alone"> {
  group: Group;
  isOpen: boolean;
  onOpen: () => void;
}

/** One material: what is in it, how much of it is there and what is urgent about it; a press unfolds its deliveries. */
export function MaterialLine({ group, isOpen, onOpen, ...row }: MaterialLineProps) {
  const money = useMoney();
  const used = group.items.find((item) => item.current) ?? group.items[0];
  if (!used) return null;
  const left = leftWords({ remaining_g: String(totalLeft(group.items)) });
  const about = aboutGroup(group, (date) => day(date));
  const { decimals, unit } = FIGURES.brix_reading;
  const reading = used.view.figures.brix_reading;
  return (
    <li className="border-t border-line">
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={onOpen}
        className="grid min-h-12 w-full grid-cols-[minmax(0,1fr)_auto_14px] items-center gap-x-3 rounded-lg px-1 py-1 text-left hover:bg-pick sm:grid-cols-[minmax(0,1fr)_84px_104px_14px]"
      >
        <span className="min-w-0">
          <span className="block font-bold">{group.name}</span>
          <span className="block text-[14px] text-soft">
            {about.said}
            {about.urgent ? <b className="text-warn">{about.said ? ` · ${about.urgent}` : about.urgent}</b> : null}
          </span>
        </span>
        <span className="hidden text-center sm:block">
          <Makeup bands={used.view.bands} name={used.product} />
          {reading && used.view.readable ? (
            <span className="block text-[14px] text-soft">
              <span className={`figures ${used.view.brix_read ? "was-read text-ink" : "worked"}`}>{figure(reading.value, decimals)}</span>
              {GAP}
              {unit}
            </span>
          ) : null}
        </span>
        <span className="text-right text-[14px] text-soft">
          <span className={`figures block text-[15px] font-bold ${left.short ? "text-warn" : "text-ink"}`}>{left.words}</span>
          {used.price_per_kg === null ? "no price" : `${money(used.price_per_kg)} a kilo`}
        </span>
        <span aria-hidden="true" className="text-soft">
          {isOpen ? "▴" : "▾"}
        </span>
      </button>
      {isOpen ? (
        <ul className="mb-2 ml-1 border-l-2 border-line pl-3" aria-label={`Deliveries of ${group.name}`}>
          {group.items.map((item) => (
            <li key={item.id}>
              <StockRow item={item} alone={group.items.length === 1} {...row} />
            </li>
          ))}
        </ul>
      ) : null}
    </li>
  );
}
