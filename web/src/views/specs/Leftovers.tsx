import { memo } from "react";
import type { Schemas } from "../../api/client";
import { useMoney } from "../../app/session";
import { figure, GAP } from "../../parts/numbers";

export type Leftover = Schemas["Leftover"];
const WHERE: Record<string, string> = { vessel: "stays in its vessel", by_product: "kept beside it", bin: "goes into the bin" };

/** A volume where it pours, else a weight: “750 mL”, “36 g”. */
export const leftAmount = (item: Leftover): string =>
  item.volume_ml >= 1 ? `${figure(item.volume_ml, 0)}${GAP}mL` : `${figure(item.mass_g, 0)}${GAP}g`;

/** “cold, closed; 3 days at 5 °C or colder” */
export function leftKeeps(item: Leftover): string {
  const dated = `${item.days} ${item.days === 1 ? "day" : "days"} at ${item.at_most_c}${GAP}°C or colder`;
  return item.how ? `${item.how}; ${dated}` : dated;
}

/** “Freeze it in portions: 5 min of hands” */
export const leftOffer = (item: Leftover): string =>
  item.hands_min > 0 ? `${item.offer}: ${figure(item.hands_min, 0)}${GAP}min of hands` : item.offer;

/** Everything that the batch leaves besides its product: each with its name, amount, share of the cost, date and what to make of it. */
export const Leftovers = memo(function Leftovers({ items }: { items: readonly Leftover[] }) {
  const money = useMoney();
  if (!items.length) return null;
  return (
    <section className="tray p-4 text-[15px]" aria-label="What is left over">
      <h2 className="mb-1 text-[20px]">What is left over</h2>
      <ul>
        {items.map((item) => (
          <li key={item.key} className="grid grid-cols-[1fr_auto] gap-x-3 border-b border-line py-2 last:border-0">
            <span className="font-bold first-letter:uppercase">{item.name}</span>
            <span className="figures text-right font-bold whitespace-nowrap">{leftAmount(item)}</span>
            <span className="text-[14px] text-soft">{item.stands === "bin" ? WHERE.bin : leftKeeps(item)}</span>
            <span className="text-right text-[14px] whitespace-nowrap text-soft">
              {Number(item.cost) > 0
                ? money(Number(item.cost))
                : Number(item.cost_if_kept) > 0
                  ? `no cost; by weight ${money(Number(item.cost_if_kept))}`
                  : "no cost"}
            </span>
            <span className="col-span-2 text-[14px]">{leftOffer(item)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
});
