import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { ask } from "../../../api/queries";
import { PageNotFetched, Shape } from "../../../parts/Notice";
import { canLead, useSession } from "../../../session/session";
import { Bench } from "./Bench";
import { useDraft } from "./useDraft";

/** The workbench: a spec is designed here, its steps beside the river of what is in the vessel. */
export function WorkbenchView() {
  const { spec = "" } = useParams();
  return <Workbench key={spec} spec={spec} />;
}

function Workbench({ spec }: { spec: string }) {
  const session = useSession();
  const { draft, question } = useDraft(spec);
  const follows = useQuery(ask.origin(spec)).data?.followed ?? false;
  if (question.error) return <PageNotFetched title="Workbench" question={question} />;
  if (!draft) return <Shape rows={7} title="Workbench" />;
  return <Bench spec={spec} draft={draft} mayEdit={canLead(session) && !follows && draft.save.status !== "conflict"} />;
}
