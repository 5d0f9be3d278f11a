import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask } from "../../../api/queries";
import { clock } from "../../../parts/say";
import { useSession } from "../../../session/session";

const R = 15;
const ROUND = 2 * Math.PI * R;

/** Every open batch with its next moment; switching loses nothing. */
export function RunRail({ current }: { current: string }) {
  const session = useSession();
  const runs = useQuery(ask.openRuns());
  const mine = [...(runs.data ?? [])].sort((a, b) => Number(b.id === current) - Number(a.id === current));
  return (
    <nav aria-label="Open batches" className="flex min-w-0 flex-1 gap-3 overflow-x-auto py-1">
      {mine.map((run) => {
        const share = (run.number ?? 0) / Math.max(1, run.of ?? 1);
        const late = run.waiting !== null && Date.parse(run.waiting.until) <= Date.now();
        return (
          <Link
            key={run.id}
            to={`/make/${run.id}`}
            aria-current={run.id === current ? "page" : undefined}
            className={`flex min-h-14 shrink-0 items-center gap-3 rounded-[14px] border px-3.5 py-1.5 ${run.id === current ? "border-rim bg-pick" : "border-line"}`}
          >
            <svg viewBox="0 0 36 36" className="size-9" aria-hidden="true">
              <circle cx="18" cy="18" r={R} fill="none" stroke="var(--line)" strokeWidth="5" />
              <circle
                cx="18"
                cy="18"
                r={R}
                fill="none"
                stroke={late ? "var(--warn)" : "var(--rim)"}
                strokeWidth="5"
                strokeDasharray={`${share * ROUND} ${ROUND}`}
                transform="rotate(-90 18 18)"
              />
            </svg>
            <span className="leading-tight whitespace-nowrap">
              <span className="block max-w-[220px] truncate text-[18px] font-bold">{run.name}</span>
              <span className={`block text-[18px] ${late ? "font-bold text-warn" : "text-soft"}`}>
                {late
                  ? "over: hands now"
                  : run.waiting
                    ? `until ${clock(run.waiting.until, session.zone)}`
                    : `step ${run.number} of ${run.of}`}
              </span>
            </span>
          </Link>
        );
      })}
    </nav>
  );
}
