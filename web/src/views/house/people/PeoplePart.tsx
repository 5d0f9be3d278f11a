import { Gone } from "./Gone";
import { Here } from "./Here";
import { Invitations } from "./Invitations";

/** Who is in the house and as what, who is invited, who has left. */
export function PeoplePart() {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[1.2fr_1fr]">
      <Here />
      <div className="grid gap-4">
        <Invitations />
        <Gone />
      </div>
    </div>
  );
}
