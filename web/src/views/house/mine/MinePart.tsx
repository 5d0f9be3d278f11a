import { canLead, useSession } from "../../../session/session";
import { AboutMe } from "./AboutMe";
import { Authenticator } from "./Authenticator";
import { Held } from "./Held";
import { Leave } from "./Leave";
import { Password } from "./Password";
import { Pin } from "./Pin";
import { Sessions } from "./Sessions";

/** What is one's own, and what waits for a lead's decision. */
export function MinePart() {
  const session = useSession();
  return (
    <>
      {canLead(session) ? <Held /> : null}
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-2">
        <div className="grid gap-4">
          <Sessions />
          <Leave />
        </div>
        <div className="grid gap-4">
          {canLead(session) || session.has_authenticator ? <Authenticator /> : null}
          <Pin />
          <Password />
          <AboutMe />
        </div>
      </div>
    </>
  );
}
