import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { ask } from "../../api/queries";
import { PageNotFetched, Shape } from "../../parts/Notice";
import { canLead, useSession } from "../../session/session";
import { OpenPanel } from "./open/OpenPanel";
import { PlanForm } from "./plan/PlanForm";
import { formOf } from "./plan/plan";
import { ToldPanel } from "./told/ToldPanel";

const LOOK_MS = 4000;

/** A panel as it stands: planned, on the table, or told. */
export function PanelView() {
  const { panel: id = "" } = useParams();
  const session = useSession();
  const panel = useQuery({
    ...ask.panel(id),
    // While it is on the table, answers come in.
    refetchInterval: (query) => (query.state.data?.state === "open" ? LOOK_MS : false),
  });
  if (panel.isPending) return <Shape rows={5} title="Taste" />;
  if (!panel.data) return <PageNotFetched title="Taste" question={panel} />;
  const { data } = panel;
  if (data.state === "told") return <ToldPanel panel={data} />;
  if (data.state === "open") return <OpenPanel panel={data} />;
  if (canLead(session)) return <PlanForm key={data.id} panel={data} begin={formOf(data)} />;
  return (
    <main className="mx-auto max-w-3xl p-4 md:p-5">
      <h1 className="text-[30px]">{data.question}</h1>
      <p className="mt-2 text-soft">{data.made_by} plans it. It can be tasted once it is opened.</p>
    </main>
  );
}
