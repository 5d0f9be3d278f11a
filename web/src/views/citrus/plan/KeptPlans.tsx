import { useInfiniteQuery } from "@tanstack/react-query";
import type { Schemas } from "../../../api/client";
import { rowsOf } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { More } from "../../../parts/More";
import { moment } from "../../../parts/say";

/** The plans that were kept, the newest first, with how far each has been carried out. */
export function KeptPlans({ zone, onOpen }: { zone: string; onOpen: (plan: Schemas["PlanOut"]) => void }) {
  const plans = useInfiniteQuery(ask.cutPlans());
  const kept = rowsOf(plans.data);
  if (!kept.length) return null;
  return (
    <div className="border-t border-line pt-3">
      <h3 className="mb-1 text-[17px]">Kept plans</h3>
      <ul>
        {kept.map((item) => (
          <li key={item.id}>
            <button
              type="button"
              onClick={() => onOpen(item)}
              className="flex min-h-11 w-full items-center justify-between gap-3 rounded-lg px-2 text-left hover:bg-pick"
            >
              <span className="font-semibold">{item.name}</span>
              <span className="text-[14px] text-soft">
                {item.done_at ? "carried out" : `${item.done_rows.length} of ${item.answer.cuts.length} cut`} · {item.made_by},{" "}
                {moment(item.made_at, zone)}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <More list={plans} />
    </div>
  );
}
