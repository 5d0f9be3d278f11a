import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask } from "../../../api/queries";
import { NotFetched } from "../../../parts/Notice";
import { useSession } from "../../../session/session";
import { ListLines } from "../../plan/today/ListLines";
import { forMe } from "../../plan/today/lines";

/** Today's list, for whoever is here first; nothing where no prep has a par. */
export function TodaysList({ may }: { may: boolean }) {
  const session = useSession();
  const found = useQuery(ask.planToday());
  const today = found.data;
  if (!today?.pars) return found.isError ? <NotFetched questions={[found]} /> : null;
  const { mine, others } = forMe(today.list.lines, session.person);
  return (
    <section className="tray mb-4 p-5" aria-label="To make today">
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="text-[20px]">To make today</h2>
        <Link to="/plan" className="inline-flex min-h-11 items-center font-semibold text-rim underline">
          The whole day
        </Link>
      </div>
      {today.list.lines.length === 0 ? <p className="text-soft">Nothing more has to be begun today.</p> : null}
      {mine.length ? (
        <>
          <h3 className="text-[16px] text-soft">For {session.name}</h3>
          <ListLines today={today} lines={mine} zone={session.zone} may={may} />
        </>
      ) : null}
      {others.length ? (
        <>
          {mine.length ? <h3 className="mt-3 text-[16px] text-soft">For the others</h3> : null}
          <ListLines today={today} lines={others} zone={session.zone} may={may} />
        </>
      ) : null}
    </section>
  );
}
