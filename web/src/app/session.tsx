import { useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext } from "react";
import type { Schemas } from "../api/client";
import { ask } from "../api/queries";
import { Shape, Trouble } from "../parts/Notice";
import { SignIn } from "./SignIn";

type Session = Schemas["Session"];
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

/** Shows the places to whoever is signed in, and the sign-in to everybody else. */
export function SessionGate({ children }: { children: ReactNode }) {
  const session = useQuery(ask.session());
  if (session.isPending) return <Shape />;
  if (session.isError) {
    return (
      <main className="p-6">
        <Trouble error={session.error} />
      </main>
    );
  }
  if (!session.data.signed_in) return <SignIn />;
  return <Here.Provider value={session.data}>{children}</Here.Provider>;
}
