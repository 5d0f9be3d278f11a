import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { rowsOf } from "../../api/lists";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { More } from "../../parts/More";
import { Empty, NotFetched, Shape } from "../../parts/Notice";
import { figure, GAP } from "../../parts/numbers";
import { clock, day } from "../../parts/say";
import { canMake, useSession } from "../../session/session";
import { StartRun } from "./start/StartRun";
import { TodaysList } from "./start/TodaysList";

const CAPTURE = { to: "/make/capture", word: "Capture without a spec" };
const WAYS_ON = [
  { to: "/make/instruments", word: "Instruments" },
  { to: "/make/containers", word: "Containers" },
];

function NothingToStart({ sought }: { sought: boolean }) {
  if (sought) return <p className="text-soft">Nothing published is called that.</p>;
  return (
    <Empty title="Nothing can be started yet">
      A spec can be made once a lead has checked and published it.{" "}
      <Link to="/specs" className="font-semibold text-rim underline">
        Go to the specs
      </Link>
    </Empty>
  );
}

/** What is on the bench, and what can be started. */
export function MakeView() {
  const session = useSession();
  const runs = useQuery(ask.openRuns());
  const [find, setFind] = useState("");
  const sought = useDeferredValue(find.trim());
  const specs = useInfiniteQuery(ask.librarySlices({ find: sought, state: "published", order: "made" }));
  const [starting, setStarting] = useState<Schemas["SpecRow"] | null>(null);
  if (runs.isPending || specs.isPending) return <Shape rows={6} title="Make" />;
  const ready = rowsOf(specs.data).filter((item) => item.version);
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-[32px]">Make</h1>
        <nav className="flex flex-wrap gap-2" aria-label="More of Make">
          {(canMake(session) ? [...WAYS_ON, CAPTURE] : WAYS_ON).map((way) => (
            <Link
              key={way.to}
              to={way.to}
              className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
            >
              {way.word}
            </Link>
          ))}
          <a
            href="/api/waits.ics"
            className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
          >
            Waits as a calendar
          </a>
        </nav>
      </div>
      <NotFetched questions={[runs, specs]} />
      <TodaysList may={canMake(session)} />
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-2">
        <section className="tray self-start p-5" aria-label="On the bench">
          <h2 className="mb-1 text-[20px]">On the bench</h2>
          {runs.data?.length === 0 ? (
            <Empty title="Nothing is running">
              {ready.length || sought
                ? "Choose a spec beside this, weigh the fruit, and go."
                : "A batch that runs stands here with its step."}
            </Empty>
          ) : null}
          <ul>
            {runs.data?.map((run) => (
              <li key={run.id} className="border-t border-line">
                <Link
                  to={`/make/${run.id}`}
                  className="-mx-2 grid min-h-16 grid-cols-[1fr_auto] items-center gap-4 rounded-lg px-2 py-2 hover:bg-pick"
                >
                  <span>
                    <span className="block text-[18px] font-bold">
                      {run.name}
                      {run.rehearsal ? <span className="ml-2 font-normal text-soft">rehearsal</span> : null}
                    </span>
                    <span className="block text-soft">
                      {run.code} · {run.step} · {run.last}
                    </span>
                  </span>
                  <span className="figures text-right text-[16px] font-bold">
                    {run.number}/{run.of}
                    {run.waiting ? (
                      <span className="block text-[14px] font-normal text-soft">until {clock(run.waiting.until, session.zone)}</span>
                    ) : null}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        </section>
        <section className="tray self-start p-5" aria-label="Start a batch">
          <div className="mb-2 flex flex-wrap items-center justify-between gap-3">
            <h2 className="text-[20px]">Start a batch</h2>
            <Field hideLabel label="Find what to start" placeholder="find by any word" value={find} onChange={setFind} className="w-56" />
          </div>
          {specs.data && ready.length === 0 ? <NothingToStart sought={sought !== ""} /> : null}
          <ul>
            {ready.map((spec) => (
              <li key={spec.id} className="flex min-h-16 items-center justify-between gap-4 border-t border-line py-2">
                <span>
                  <span className="block text-[18px] font-bold">{spec.name}</span>
                  <span className="block text-soft">
                    {spec.last_made ? `made ${day(spec.last_made, session.zone)} · ` : "never made · "}version {spec.version}
                    {spec.brief ? ` · makes ${figure(spec.brief.volume_ml / 1000, 2)}${GAP}L` : ""}
                  </span>
                </span>
                {canMake(session) ? (
                  <Button onClick={() => setStarting(spec)} aria-label={`Start ${spec.name}`}>
                    Start
                  </Button>
                ) : null}
              </li>
            ))}
          </ul>
          <More list={specs}>More to start</More>
        </section>
      </div>
      <StartRun spec={starting} onClose={() => setStarting(null)} />
    </main>
  );
}
