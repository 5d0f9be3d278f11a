import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask } from "../../api/queries";
import { dayWord } from "../../parts/days";
import { NotFetched } from "../../parts/Notice";
import { figure, GAP } from "../../parts/numbers";
import { useSession } from "../../session/session";
import { named } from "./shelf/shelves";

/** What the house made itself, beside what is bought: which bottles stand where, until when. */
export function MadeHere({ sought, now }: { sought: string; now: number }) {
  const session = useSession();
  const lots = useQuery(ask.everyLot());
  const rows = (lots.data ?? []).filter((lot) => named([lot.name, lot.place, lot.code], sought));
  if (lots.data && !rows.length) return null;
  return (
    <section className="tray p-4 md:p-5" aria-label="Made here">
      <h2 className="mb-1 text-[20px]">Made here</h2>
      <NotFetched questions={[lots]} />
      <ul>
        {rows.map((lot) => (
          <li key={lot.code} className="border-t border-line">
            <Link
              to={`/lots/${lot.code}`}
              className="grid min-h-14 grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 rounded-lg px-1 py-1.5 hover:bg-pick"
            >
              <span className="min-w-0">
                <span className="block font-bold">{lot.name}</span>
                <span className="block text-[14px] text-soft">
                  {lot.code}
                  {lot.place ? ` · ${lot.place}` : ""}
                </span>
              </span>
              <span className="text-right text-[14px]">
                <span className="figures block text-[15px] font-bold">
                  {figure(lot.left, 0)}
                  {GAP}
                  {lot.unit}
                </span>
                <span className={lot.standing.state === "good" || lot.standing.state === "resting" ? "text-soft" : "font-bold text-warn"}>
                  {lot.standing.state === "good" || lot.standing.state === "resting"
                    ? `until ${dayWord(lot.use_by, session, now)}`
                    : lot.standing.state}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
