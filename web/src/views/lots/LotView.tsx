import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { ask } from "../../api/queries";
import { canMake, useSession } from "../../app/session";
import { Button } from "../../parts/Button";
import { Figure } from "../../parts/Figure";
import { Shape, Trouble } from "../../parts/Notice";
import { figure, GAP } from "../../parts/numbers";
import { clock, day, moment } from "../../parts/say";
import { RunLabels } from "../make/run/RunLabels";
import { AllergensAnswer } from "../specs/card/AllergensAnswer";
import { useQuickSums } from "../sums/useQuickSums";
import { LotActions } from "./LotActions";
import { Trace } from "./Trace";

/** One lot: may it still be poured, until when and why, what is in it, and its label. Read in five seconds on a phone. */
export function LotView() {
  const { code = "" } = useParams();
  const session = useSession();
  const { openSums } = useQuickSums();
  const lot = useQuery(ask.lot(code));
  const trace = useQuery(ask.lotTrace(code));
  if (lot.isPending) return <Shape rows={5} title="Bottles" />;
  if (!lot.data) {
    return (
      <main className="p-5">
        <Trouble error={lot.error} />
      </main>
    );
  }
  const { data } = lot;
  // As the core judged it when it was asked: what has changed by itself since then is not good any more.
  const { state, until } = data.standing;
  const good = state === "good" && (until === null || Date.now() < Date.parse(until));
  const resting = state === "resting";
  return (
    <main className="mx-auto max-w-3xl p-4 md:p-5">
      <p className="mb-1 text-soft">
        {data.code} · version {data.version_number}
      </p>
      <h1 className="mb-3 text-[34px]">{data.name}</h1>
      <section className={`tray mb-3.5 border-2 p-5 ${good ? "" : "border-warn"}`} aria-label="May it be poured">
        <p className={`font-head text-[30px] leading-tight font-bold ${good ? "text-good" : "text-warn"}`}>
          {good ? (data.what ? "Good to use" : "Good to pour") : resting ? "Not ready yet" : "Do not pour"}
        </p>
        {data.ready_at && resting ? (
          <p className="mt-1 text-[20px] font-bold">
            From {moment(data.ready_at, session.zone)}: {data.ready_why}.
          </p>
        ) : null}
        {data.off_spec ? <p className="mt-1 text-[18px] font-bold text-warn">{data.off_spec}</p> : null}
        {data.recalled ? <p className="mt-1 text-[20px] font-bold text-warn">Recalled: {data.recalled}</p> : null}
        {data.gone_at ? <p className="mt-1 text-[20px] font-bold text-warn">Gone from the shelf.</p> : null}
        {data.withdrawn ? <p className="mt-1 text-[20px] font-bold text-warn">Withdrawn: {data.withdrawn}</p> : null}
        <p className="mt-1 text-[20px] font-bold">Use by {day(data.use_by)}</p>
        <p className="mt-1 text-soft">{data.use_by_reason}</p>
        {data.opened_at ? <p className="mt-1 text-soft">Opened {day(data.opened_at, session.zone)}, and counted from then.</p> : null}
      </section>
      <section className="tray mb-3.5 grid gap-4 p-5 sm:grid-cols-2" aria-label="What it is">
        <dl className="grid gap-2.5">
          <div>
            <dt className="text-[14px] text-soft">left</dt>
            <dd className="font-head text-[25px] font-bold">
              {figure(data.left, 0)}
              <span className="ml-1.5 text-[14px] font-normal text-soft">
                of {figure(data.amount, 0)}
                {GAP}
                {data.unit}
              </span>
            </dd>
          </div>
          {data.final ? (
            <>
              <div>
                <dt className="text-[14px] text-soft">solids</dt>
                <dd>
                  <Figure name="brix" data={data.final.brix} size="big" />
                </dd>
              </div>
              <div>
                <dt className="text-[14px] text-soft">acid, as citric</dt>
                <dd>
                  <Figure name="acid_g_100ml" data={data.final.acid_g_100ml} size="big" />
                </dd>
              </div>
            </>
          ) : null}
        </dl>
        <dl className="grid content-start gap-2.5">
          <div>
            <dt className="text-[14px] text-soft">made</dt>
            <dd>
              {day(data.made_at, session.zone)} {clock(data.made_at, session.zone)} by {data.made_by}
            </dd>
          </div>
          <div>
            <dt className="text-[14px] text-soft">stands</dt>
            <dd>
              {data.place || "nowhere noted"}, {data.keep_c}
              {GAP}°C or colder
            </dd>
          </div>
          <div>
            <dt className="text-[14px] text-soft">from</dt>
            <dd>
              <Link to={`/make/${data.run}`} className="inline-flex min-h-11 items-center font-semibold text-rim underline">
                batch {data.run_code}
              </Link>
            </dd>
          </div>
        </dl>
      </section>
      <section className="tray mb-3.5 p-5" aria-label="Allergens and cautions">
        <p>
          <b>Allergens:</b> {data.allergens_words}
        </p>
        <AllergensAnswer spec={data.spec} />
        {data.cautions.map((caution) => (
          <p key={caution} className="mt-1">
            <b>Caution:</b> {caution}
          </p>
        ))}
        <p className="mt-2 text-[14px] text-soft">Follow your local food code; ask your authority.</p>
      </section>
      {data.sums.length ? (
        <div className="mb-3.5 flex flex-wrap gap-2">
          {data.sums.map(({ name, label, figures }) => (
            <Button key={name} onClick={() => openSums({ name, figures })}>
              {label}
            </Button>
          ))}
        </div>
      ) : null}
      {canMake(session) ? <LotActions lot={data} /> : null}
      <section className="tray mb-3.5 grid gap-4 p-5 sm:grid-cols-2" aria-label="Where it comes from and went">
        <div>
          <h2 className="mb-1 text-[20px]">Made of</h2>
          <Trace nodes={trace.data?.made_of ?? []} none="Nothing that Stores knew by its delivery." />
        </div>
        <div>
          <h2 className="mb-1 text-[20px]">Went into</h2>
          <Trace nodes={trace.data?.went_into ?? []} none="Nothing yet." />
        </div>
        {trace.data?.events.length ? (
          <ul className="text-[15px] text-soft sm:col-span-2">
            {trace.data.events.map((event) => (
              <li key={`${event.kind}-${event.at}`}>
                {day(event.at, session.zone)} {clock(event.at, session.zone)} · {event.kind}
                {Object.values(event.body ?? {}).length ? ` · ${Object.values(event.body ?? {}).join(" ")}` : ""} · {event.by}
              </li>
            ))}
          </ul>
        ) : null}
      </section>
      <div className="flex flex-wrap items-center gap-2">
        <a
          href={`/api/lots/${data.code}/label.pdf`}
          target="_blank"
          rel="noreferrer"
          className="inline-flex min-h-11 items-center rounded-full border border-rim bg-rim px-5 font-bold text-on-rim"
        >
          Label as PDF
        </a>
        <RunLabels run={data.run} may={canMake(session)} />
      </div>
    </main>
  );
}
