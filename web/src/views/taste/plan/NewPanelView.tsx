import { Navigate } from "react-router";
import { canLead, useSession } from "../../../session/session";
import { PlanForm } from "./PlanForm";
import { BLANK } from "./plan";

/** A panel that nobody has planned yet. */
export function NewPanelView() {
  const session = useSession();
  return canLead(session) ? <PlanForm panel={null} begin={BLANK} /> : <Navigate to="/taste" replace />;
}
