import { day, moment } from "../../parts/say";
import { type Lot, mayPour } from "./pour";

/** Whether a lot may still be poured, until when and why: read first, at arm's length. */
export function MayBePoured({ lot, zone }: { lot: Lot; zone: string }) {
  const { good, words } = mayPour(lot, Date.now());
  return (
    <section className={`tray mb-3.5 border-2 p-5 ${good ? "" : "border-warn"}`} aria-label="May it be poured">
      <p className={`font-head text-[30px] leading-tight font-bold ${good ? "text-good" : "text-warn"}`}>{words}</p>
      {lot.ready_at && lot.standing.state === "resting" ? (
        <p className="mt-1 text-[20px] font-bold">
          From {moment(lot.ready_at, zone)}: {lot.ready_why}.
        </p>
      ) : null}
      {lot.off_spec ? <p className="mt-1 text-[18px] font-bold text-warn">{lot.off_spec}</p> : null}
      {lot.recalled ? <p className="mt-1 text-[20px] font-bold text-warn">Recalled: {lot.recalled}</p> : null}
      {lot.gone_at ? <p className="mt-1 text-[20px] font-bold text-warn">Gone from the shelf.</p> : null}
      {lot.withdrawn ? <p className="mt-1 text-[20px] font-bold text-warn">Withdrawn: {lot.withdrawn}</p> : null}
      <p className="mt-1 text-[20px] font-bold">Use by {day(lot.use_by)}</p>
      <p className="mt-1 text-soft">{lot.use_by_reason}</p>
      {lot.opened_at ? <p className="mt-1 text-soft">Opened {day(lot.opened_at, zone)}, and counted from then.</p> : null}
    </section>
  );
}
