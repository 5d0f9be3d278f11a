import { canLead, useSession } from "../../session/session";
import { Devices } from "./Devices";
import { Held } from "./Held";
import { Password } from "./Password";
import { People } from "./People";
import { Pin } from "./Pin";
import { Sessions } from "./Sessions";

/** What is mine (password, PIN, sessions) and, for a lead, what is the house's (what waits for a decision, devices, people). */
export function HouseView() {
  const session = useSession();
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <h1 className="mb-1 text-[32px]">{session.name}</h1>
      <p className="mb-4 text-soft">
        {session.role} at {session.house}
        {session.device ? `, on ${session.device.name}` : ", on a device that is not the house's"}
      </p>
      {canLead(session) ? <Held /> : null}
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-2">
        <div className="grid gap-4">
          <Sessions />
          {canLead(session) ? (
            <>
              <Devices />
              <People />
            </>
          ) : null}
        </div>
        <div className="grid gap-4">
          <Pin />
          <Password />
        </div>
      </div>
    </main>
  );
}
