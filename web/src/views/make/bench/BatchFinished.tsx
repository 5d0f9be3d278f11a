import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Run } from "../run/useBench";
import { AfterFinish, RehearsalScore } from "./AfterFinish";

/** A batch with all its steps done: what came of it, and its bottles. */
export function BatchFinished({ run, children }: { run: Run; children: ReactNode }) {
  return (
    <div className="grid gap-4">
      <p className="text-[20px] text-soft">
        {run.code} · {run.name} · version {run.version}
      </p>
      {run.rules ? <p className="text-[16px] text-soft">{run.rules}</p> : null}
      <h1 className="text-[44px]">
        {run.finished_at ? (run.rehearsal ? `${run.score?.points ?? 0} of 100` : "Bottled") : "All steps done"}
      </h1>
      {run.score ? <RehearsalScore run={run} /> : null}
      {run.late ? (
        <p className="rounded-[14px] border-l-[9px] border-warn bg-quiet p-4 text-[20px]">
          {run.late} {run.late === 1 ? "thing" : "things"} came in after the finish, from a device that was away: kept, and not counted.
        </p>
      ) : null}
      {run.state.deviations.map((item) => (
        <p key={item.line} className="rounded-[14px] bg-quiet p-4 text-[20px]">
          {item.text}
        </p>
      ))}
      {run.state.readings.map((item) => (
        <p key={item.event} className="rounded-[14px] bg-quiet p-4 text-[20px]">
          {item.text}
        </p>
      ))}
      {run.state.told
        .filter((claim) => claim.worked_out)
        .map((claim) => (
          <p key={claim.told} className="rounded-[14px] bg-quiet p-4 text-[20px]">
            Told: <q>{claim.told}</q> · worked out: {claim.worked_out}
            {claim.happened ? ` · bottled: ${claim.happened}` : ""}
            {claim.cause ? <span className="block text-soft">{claim.cause}</span> : null}
          </p>
        ))}
      {children}
      {run.finished_at && !run.rehearsal ? <AfterFinish run={run} /> : null}
      {run.lots.map((code) => (
        <Link
          key={code}
          to={`/lots/${code}`}
          className="inline-flex min-h-16 items-center justify-self-start rounded-[16px] bg-rim px-6 text-[20px] font-bold text-on-rim"
        >
          Bottles {code}
        </Link>
      ))}
    </div>
  );
}
