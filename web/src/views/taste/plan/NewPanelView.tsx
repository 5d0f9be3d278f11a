import { useState } from "react";
import { Navigate } from "react-router";
import { canLead, useSession } from "../../../session/session";
import { keptPlan } from "./keptPlan";
import { PlanForm } from "./PlanForm";

/** A panel that nobody has planned yet, as far as it was typed. */
export function NewPanelView() {
  const session = useSession();
  const [begin] = useState(() => keptPlan(session.house_id, session.person));
  return canLead(session) ? <PlanForm panel={null} begin={begin} /> : <Navigate to="/taste" replace />;
}
