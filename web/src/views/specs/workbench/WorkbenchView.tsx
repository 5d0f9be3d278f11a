import { useParams } from "react-router";
import { canLead, useSession } from "../../../app/session";
import { Shape, Trouble } from "../../../parts/Notice";
import { Bench } from "./Bench";
import { useDraft } from "./useDraft";

/** The workbench: a spec is designed here, its steps beside the river of what is in the vessel. */
export function WorkbenchView() {
  const { spec = "" } = useParams();
  return <Workbench key={spec} spec={spec} />;
}

function Workbench({ spec }: { spec: string }) {
  const session = useSession();
  const { draft, error } = useDraft(spec);
  if (error) {
    return (
      <main className="p-5">
        <Trouble error={error} />
      </main>
    );
  }
  if (!draft) return <Shape rows={7} title="Workbench" />;
  return <Bench spec={spec} draft={draft} mayEdit={canLead(session) && draft.save.status !== "conflict"} />;
}
