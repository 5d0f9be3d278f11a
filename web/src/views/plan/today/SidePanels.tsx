import { weekday } from "../../../parts/say";
import { type Today, volume } from "./lines";

/** How long everything lasts without anything more being made: a bar for each day beside its par. */
export function RunsOut({ today }: { today: Today }) {
  const rows = today.list.runs_out.filter((one) => one.day).slice(0, 8);
  return (
    <section className="tray p-4" aria-label="What runs out">
      <h2 className="mb-1 text-[20px]">What runs out</h2>
      {rows.length === 0 ? <p className="text-soft">Nothing within a fortnight.</p> : null}
      <ul>
        {rows.map((row) => {
          const most = Math.max(1, ...row.stands.flatMap((one) => [one.there_ml, one.must_ml]));
          return (
            <li
              key={row.key}
              className="grid grid-cols-[minmax(0,1fr)_112px_auto] items-center gap-3 border-t border-line py-2 first:border-t-0"
            >
              <span>
                <span className="block text-[16px] font-semibold">{row.name}</span>
                <span className="block text-[14px] text-soft">{volume(row.left_ml)}</span>
              </span>
              <svg viewBox="0 0 112 32" className="h-8 w-28" aria-hidden="true">
                {row.stands.map((one, n) => (
                  <g key={one.day} transform={`translate(${n * 16},0)`}>
                    <rect x="1" width="12" y={31 - (30 * one.there_ml) / most} height={(30 * one.there_ml) / most} fill="var(--sugar)" />
                    <path d={`M0 ${31 - (30 * one.must_ml) / most}h14`} stroke="var(--rim)" strokeWidth="2" />
                  </g>
                ))}
              </svg>
              <b className={`w-24 text-right text-[15px] ${row.day === today.list.day ? "text-warn" : ""}`}>
                {row.day === today.list.day ? "today" : weekday(row.day ?? "")}
              </b>
            </li>
          );
        })}
      </ul>
      <p className="mt-1 text-[14px] text-soft">
        Each bar is what stands there when a day opens, if nothing more is made; the line is its par.
      </p>
    </section>
  );
}

/** What cannot be met: what is short, by when, and the nearest that can. */
export function Missed({ today }: { today: Today }) {
  if (!today.list.missed.length) return null;
  return (
    <section className="tray mb-3.5 border-2 border-warn p-4" aria-label="Misses its day">
      <h2 className="mb-1 text-[20px] text-warn">Misses its day</h2>
      <ul>
        {today.list.missed.map((one) => (
          <li key={one.key} className="border-t border-line py-1.5 first:border-t-0">
            <b>{one.what}</b> <span>{one.nearest}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
