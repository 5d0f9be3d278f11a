import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { FIGURES } from "../../../api/figures";
import { GAP, withoutUnit } from "../../../parts/numbers";
import { useMoney } from "../../../session/session";
import { type Row, standing } from "./rows";

/** A spec in the library: what stands of it, and its solids, acid and cost. */
export function LibraryRow({ item, zone, tasted }: { item: Row; zone: string; tasted: Schemas["TastedSpec"] | undefined }) {
  const money = useMoney();
  const gone = item.state === "withdrawn";
  return (
    <li className="border-t border-line">
      <Link
        to={`/specs/${item.id}`}
        className="-mx-2 grid min-h-14 items-center gap-x-4 rounded-lg px-2 py-2 hover:bg-pick sm:grid-cols-[1fr_auto]"
      >
        <span>
          <span className={`block font-bold ${gone ? "line-through decoration-warn" : ""}`}>{item.name}</span>
          <span className={`block text-[14px] ${gone ? "font-semibold text-warn" : "text-soft"}`}>{standing(item, zone)}</span>
          {tasted ? (
            <span className="block text-[14px] text-soft">
              tasted{tasted.version ? ` as version ${tasted.version}` : ""}: {tasted.headline}
            </span>
          ) : null}
        </span>
        {item.brief ? (
          <span className="figures grid grid-cols-[5.5rem_5.5rem_6rem] gap-x-2 text-right text-[15px]">
            <span>
              <b>{withoutUnit("brix", item.brief.brix)}</b>
              <span className="text-[14px] text-soft">
                {GAP}
                {FIGURES.brix.unit}
              </span>
            </span>
            <span>
              <b>{withoutUnit("acid_g_100ml", item.brief.acid_g_100ml)}</b>
              <span className="text-[14px] text-soft">{GAP}acid</span>
            </span>
            <span>
              {item.brief.unpriced.length > 0 ? (
                <span className="text-[14px] text-soft">part priced</span>
              ) : (
                <>
                  <b>{money(item.brief.cost_per_litre)}</b>
                  <span className="text-[14px] text-soft">/L</span>
                </>
              )}
            </span>
          </span>
        ) : null}
      </Link>
    </li>
  );
}
