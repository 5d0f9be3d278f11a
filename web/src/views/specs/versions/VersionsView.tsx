import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { client, unwrap } from "../../../api/client";
import { rowsOf } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { More } from "../../../parts/More";
import { Empty, NotFetched, Shape, Trouble } from "../../../parts/Notice";
import { canLead, canMake, useSession } from "../../../session/session";
import { Follows } from "../Follows";
import { SpecParts } from "../SpecParts";
import { ComparePick } from "./ComparePick";
import { OtherHouses } from "./OtherHouses";
import { newestStanding } from "./offers";
import { Surroundings } from "./Surroundings";
import { VersionAction, type VersionChange } from "./VersionAction";
import { VersionRow } from "./VersionRow";

/** What became of a spec: its versions with who, why and what people said, trials, copies, and what it draws on. */
export function VersionsView() {
  const { spec = "" } = useParams();
  const session = useSession();
  const go = useNavigate();
  const queries = useQueryClient();
  const versions = useInfiniteQuery(ask.versions(spec));
  const draft = useQuery(ask.draft(spec));
  const panels = useQuery(ask.panelsOfSpec(spec));
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
      <Follows spec={spec} />
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
        <div className="grid grid-cols-[minmax(0,1fr)] content-start gap-4">
          <section className="tray p-5" aria-label="Versions">
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
                  panels={panels.data?.items.filter((panel) => panel.versions.includes(version.number)) ?? []}
                  onDeed={(kind) => setAction({ kind, version })}
                />
              ))}
            </ol>
            <More list={versions}>Older versions</More>
          </section>
          {canLead(session) && !isTrial ? <OtherHouses spec={spec} newest={newestStanding(shown)} /> : null}
        </div>
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
