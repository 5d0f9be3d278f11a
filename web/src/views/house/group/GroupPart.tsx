import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { NotFetched, Shape } from "../../../parts/Notice";
import { GroupHouses } from "./GroupHouses";
import { GroupLeads } from "./GroupLeads";
import { IntoGroup } from "./IntoGroup";
import { LeaveGroup } from "./LeaveGroup";

/** The houses that belong together with this one: who leads them, what stands in each, how one more comes in. */
export function GroupPart() {
  const group = useQuery(ask.group());
  if (group.isPending) return <Shape rows={4} />;
  if (!group.data) return <NotFetched questions={[group]} />;
  if (!group.data.name) return <IntoGroup />;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[1.4fr_1fr]">
      <GroupHouses group={group.data} />
      <div className="grid gap-4">
        <GroupLeads group={group.data} />
        <LeaveGroup group={group.data} />
      </div>
    </div>
  );
}
