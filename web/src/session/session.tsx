import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useEffect } from "react";
import type { Schemas } from "../api/client";
import { ask } from "../api/queries";
import { awaySince, onReach } from "../api/reach";
import { NotFetched, Shape } from "../parts/Notice";
import { onNews } from "../sync/database";
import { adopts } from "../sync/who";
import { SignIn } from "./SignIn";
import { type AtDevice, useActor } from "./useActor";
import { useQueue } from "./useQueue";

export interface Session extends Omit<Schemas["Session"], "others"> {
  others: string[];
  /** Taken over without the network: the PIN has not been checked yet. */
  claimed: boolean;
}
const Here = createContext<Session | null>(null);

/** Who is signed in; only inside `SessionGate`. */
export function useSession(): Session {
  const session = useContext(Here);
  if (!session) throw new Error("useSession needs a SessionGate around it.");
  return session;
}

export const canMake = (session: Session) => session.role === "maker" || session.role === "lead";
export const canLead = (session: Session) => session.role === "lead";

/** Money in the house's currency. */
export function useMoney() {
  const { currency } = useSession();
  return (amount: string | number) =>
    new Intl.NumberFormat("en-IE", { style: "currency", currency, currencyDisplay: "narrowSymbol" }).format(Number(amount));
}

/** Who is at this device: what the site says, unless somebody has taken over or signed out here since. */
export function present(answered: Schemas["Session"] | undefined, at: AtDevice): Session | null {
  const { actor, here, closed } = at;
  if (closed) return null;
  const whole = (session: Schemas["Session"], claimed: boolean): Session => ({ ...session, others: session.others ?? [], claimed });
  if (actor?.claimed && here) {
    return whole({ ...here, signed_in: true, by_pin: true, person: actor.person, name: actor.name, role: actor.role }, true);
  }
  if (answered) return answered.signed_in ? whole(answered, false) : null;
  return actor && here?.person === actor.person ? whole(here, false) : null;
}

function Opening() {
  return (
    <main className="p-4 md:p-5">
      <Shape rows={6} />
    </main>
  );
}

/** Shows the places to whoever is here, and the sign-in to everybody else. */
export function SessionGate({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const asked = useQuery(ask.session());
  const at = useActor();
  // Another person sees and may do other things; and what the site did not answer while it was away is asked again.
  useEffect(() => onNews((news) => void (news === "who" && queries.invalidateQueries())), [queries]);
  useEffect(() => onReach(() => void (awaySince() === null && queries.invalidateQueries())), [queries]);
  const { signedOut } = useQueue();
  useEffect(() => {
    if (signedOut) void queries.invalidateQueries({ queryKey: ["session"] });
  }, [signedOut, queries]);
  const { data, dataUpdatedAt } = asked;
  useEffect(() => {
    if (data && !data.kept) void adopts(data, dataUpdatedAt);
  }, [data, dataUpdatedAt]);
  if (at === null) return <Opening />;
  const session = present(data, at);
  if (session) return <Here.Provider value={session}>{children}</Here.Provider>;
  if (asked.isPending && !at.closed) return <Opening />;
  if (asked.isError && !at.here?.device) {
    return (
      <main className="p-6">
        <NotFetched questions={[asked]} />
      </main>
    );
  }
  return <SignIn device={data?.device ?? at.here?.device ?? null} opening={data?.may_open ?? ""} demo={data?.is_demo ?? false} />;
}
