import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { PageNotFetched, Shape } from "../../parts/Notice";
import { clock, day } from "../../parts/say";
import { canMake, useSession } from "../../session/session";
import { RunLabels } from "../make/run/RunLabels";
import { AllergensAnswer } from "../specs/card/AllergensAnswer";
import { useQuickSums } from "../sums/useQuickSums";
import { LotActions } from "./LotActions";
import { MayBePoured } from "./MayBePoured";
import { Trace } from "./Trace";
import { WhatItIs } from "./WhatItIs";

/** One lot: may it still be poured, until when and why, what is in it, and its label. Read in five seconds on a phone. */
export function LotView() {
  const { code = "" } = useParams();
  const session = useSession();
  const { openSums } = useQuickSums();
  const lot = useQuery(ask.lot(code));
  const trace = useQuery(ask.lotTrace(code));
  if (lot.isPending) return <Shape rows={5} title="Bottles" />;
  if (!lot.data) return <PageNotFetched title="Bottles" question={lot} />;
  const { data } = lot;
  return (
    <main className="mx-auto max-w-3xl p-4 md:p-5">
      <p className="mb-1 text-soft">
        {data.code}
        {data.version_number ? ` · version ${data.version_number}` : ""}
      </p>
      <h1 className="mb-3 text-[26px] sm:text-[34px]">{data.name}</h1>
      <MayBePoured lot={data} zone={session.zone} />
      <WhatItIs lot={data} zone={session.zone} />
      <section className="tray mb-3.5 p-5" aria-label="Allergens and cautions">
        <p>
          <b>Allergens:</b> {data.allergens_words}
        </p>
        {data.spec ? <AllergensAnswer spec={data.spec} /> : null}
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
        {data.run ? <RunLabels run={data.run} may={canMake(session)} /> : null}
      </div>
    </main>
  );
}
