import { memo } from "react";
import { type Leftover, leftAmount, leftKeeps, leftOffer } from "../../../parts/leftovers";
import { useMoney } from "../../../session/session";

const WHERE: Record<string, string> = { vessel: "stays in its vessel", by_product: "kept beside it", bin: "goes into the bin" };

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
