import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { rowsOf } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { canLead, canMake, useSession } from "../../../app/session";
import { Button } from "../../../parts/Button";
import { More } from "../../../parts/More";
import { Empty, NotFetched, Shape, Trouble } from "../../../parts/Notice";
import { figure } from "../../../parts/numbers";
import { day, listed } from "../../../parts/say";
import { SpecParts } from "../SpecParts";
import { ComparePick } from "./ComparePick";
import { Surroundings } from "./Surroundings";
import { VersionAction, type VersionChange } from "./VersionAction";

type Version = Schemas["VersionOut"];

/** What became of a spec: its versions with who, why and what people said, trials, copies, and what it draws on. */
export function VersionsView() {
  const { spec = "" } = useParams();
  const session = useSession();
  const go = useNavigate();
  const queries = useQueryClient();
  const versions = useInfiniteQuery(ask.versions(spec));
  const draft = useQuery(ask.draft(spec));
  const [action, setAction] = useState<VersionChange | null>(null);
  const promote = useMutation({
    mutationFn: () => unwrap(client.POST("/api/specs/{spec_id}/promote", { params: { path: { spec_id: spec } } })),
    onSuccess: (into) => {
      void queries.invalidateQueries({ queryKey: ["draft", into.spec] });
      void go(`/specs/${into.spec}`);
    },
  });
  if (versions.isPending || draft.isPending) return <Shape rows={6} title="Versions" />;
  const shown = rowsOf(versions.data);
  const name = String(draft.data?.body.name ?? "");
  const isTrial = draft.data?.trial_of ?? "";
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="text-[24px] break-words sm:text-[30px]">{name || "Versions"}</h1>
        <SpecParts spec={spec} />
      </div>
      <NotFetched questions={[versions, draft]} />
      <Trouble error={promote.error} />
      {isTrial ? (
        <div className="tray mb-4 flex flex-wrap items-center justify-between gap-3 p-4">
          <p>
            A trial beside <b>{isTrial}</b>. Staff go on making that one.
          </p>
          {canLead(session) ? (
            <Button onClick={() => promote.mutate()} disabled={promote.isPending || shown.length === 0}>
              Promote it
            </Button>
          ) : null}
        </div>
      ) : null}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[minmax(0,1fr)_400px]">
        <section className="tray self-start p-5" aria-label="Versions">
          <div className="mb-2 flex flex-wrap items-center justify-between gap-3">
            <h2 className="text-[20px]">Versions</h2>
            <ComparePick spec={spec} versions={shown} />
          </div>
          {versions.data && shown.length === 0 ? (
            <Empty title="Nothing is published yet">Each version stands here with its why, its scores and who carries a copy.</Empty>
          ) : null}
          <ol>
            {shown.map((version) => (
              <VersionRow
                key={version.number}
                version={version}
                zone={session.zone}
                mayLead={canLead(session)}
                mayMake={canMake(session)}
                onDeed={(kind) => setAction({ kind, version })}
              />
            ))}
          </ol>
          <More list={versions}>Older versions</More>
        </section>
        <Surroundings
          spec={spec}
          mayLead={canLead(session)}
          body={draft.data?.body ?? {}}
          asksQuestions={draft.data?.asks_questions ?? true}
        />
      </div>
      <VersionAction action={action} spec={spec} name={name} others={shown} onClose={() => setAction(null)} />
    </main>
  );
}

interface RowProps {
  version: Version;
  zone: string;
  mayLead: boolean;
  mayMake: boolean;
  onDeed: (kind: VersionChange["kind"]) => void;
}

function VersionRow({ version, zone, mayLead, mayMake, onDeed }: RowProps) {
  const mean = version.scores.length ? version.scores.reduce((all, score) => all + score.score, 0) / version.scores.length : null;
  return (
    <li className="grid gap-1.5 border-t border-line py-3">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <p className="min-w-0 text-[17px]">
          <b className={`font-head text-[20px] ${version.withdrawn ? "line-through decoration-warn" : ""}`}>Version {version.number}</b>
          <span className="ml-2">{version.why}</span>
        </p>
        <span className="text-[14px] text-soft">
          {version.author} · {day(version.at, zone)}
        </span>
      </div>
      {version.withdrawn ? (
        <p className="font-semibold text-warn">
          Withdrawn {version.withdrawn_at ? day(version.withdrawn_at, zone) : ""}: {version.withdrawn}
          {version.successor ? ` Make version ${version.successor}.` : ""}
        </p>
      ) : null}
      {version.critical ? (
        <p className="text-[15px]">
          <b>Critical.</b> Read by {version.acknowledged.length ? listed(version.acknowledged) : "nobody yet"}.
        </p>
      ) : null}
      {version.corrected_at ? <p className="text-[14px] text-soft">Words corrected {day(version.corrected_at, zone)}.</p> : null}
      {version.scores.length ? (
        <ul className="text-[15px]">
          {version.scores.map((score) => (
            <li key={`${score.taster}-${score.at}`}>
              <b className="figures">{score.score}/10</b> {score.taster}
              {score.reference ? <span className="text-soft"> against {score.reference}</span> : null}
              {score.note ? <span>: {score.note}</span> : null}
            </li>
          ))}
          {mean !== null && version.scores.length > 1 ? (
            <li className="text-[14px] text-soft">
              mean {figure(mean, 1)} of {version.scores.length} tasters
            </li>
          ) : null}
        </ul>
      ) : null}
      {version.trials.length ? <p className="text-[15px] text-soft">Trials from it: {listed(version.trials)}.</p> : null}
      {version.copies.length ? (
        <p className="text-[15px] text-soft">Copies with {listed(version.copies.map((copy) => `${copy.to} (${day(copy.at, zone)})`))}.</p>
      ) : null}
      <div className="-ml-3 flex flex-wrap gap-1">
        <Link
          to={`/specs/${version.spec}/card?number=${version.number}`}
          className="inline-flex min-h-11 items-center rounded-full px-3 text-[15px] font-semibold hover:bg-pick"
        >
          Card
        </Link>
        {mayMake ? (
          <>
            <Button look="quiet" onClick={() => onDeed("score")}>
              Score it
            </Button>
            <Button look="quiet" onClick={() => onDeed("copy")}>
              Hand out a copy
            </Button>
          </>
        ) : null}
        {mayLead ? (
          <>
            <Button look="quiet" onClick={() => onDeed("branch")}>
              Branch a trial
            </Button>
            {version.withdrawn ? null : (
              <Button look="quiet" onClick={() => onDeed("withdraw")}>
                Withdraw
              </Button>
            )}
          </>
        ) : null}
      </div>
    </li>
  );
}
