import { useMutation, useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { Button } from "../parts/Button";
import { Sheet } from "../parts/Sheet";
import { value } from "../sync/database";
import { keptKey } from "../sync/keys";
import { claimAgain } from "../sync/who";
import { PinPad } from "./PinPad";
import { SignOut } from "./SignOut";
import { SwitchPerson } from "./SwitchPerson";
import { useSession } from "./session";

const Me = lazy(() => import("./Me").then((module) => ({ default: module.Me })));

/** Who is at this device, always in sight; a press changes the person, or leads to what is one's own. */
export function WhoIsHere({ size = "usual" }: { size?: "usual" | "bench" }) {
  const session = useSession();
  const [open, setOpen] = useState<"who" | "me" | null>(null);
  const { device } = session;
  const state = session.claimed ? " (not confirmed)" : "";
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(device ? "who" : "me")}
        className={`rounded-full px-2 hover:text-ink ${size === "bench" ? "min-h-14 text-[18px] font-semibold text-ink" : "min-h-11 text-[15px] text-soft"}`}
      >
        {session.is_demo ? (
          <span className={`mr-2 rounded-md border border-sugar px-1.5 text-ink ${size === "bench" ? "text-[18px]" : "text-[14px]"}`}>
            Demo
          </span>
        ) : null}
        {size === "usual" ? <span className="hidden lg:inline">{session.house} · </span> : null}
        {session.name}
        {state}
      </button>
      {device ? (
        <Sheet
          open={open === "who"}
          onClose={() => setOpen(null)}
          title={`${session.name}${state}`}
          about={`${session.role} at ${session.house}, on ${device.name}`}
        >
          <ClaimAgain />
          <h3 className="mb-2 text-[18px]">Somebody else takes over</h3>
          <SwitchPerson device={device} now={session.person} onSwitched={() => setOpen(null)} />
          <div className="mt-5 flex flex-wrap gap-2 border-t border-line pt-3">
            <Button onClick={() => setOpen("me")}>My own, and this house</Button>
            <SignOut />
          </div>
        </Sheet>
      ) : null}
      {open === "me" ? (
        <Suspense fallback={null}>
          <Me open onClose={() => setOpen(null)} />
        </Suspense>
      ) : null}
    </>
  );
}

/** The PIN that was typed without the network was wrong: it is asked for once more, and what was done since counts then. */
function ClaimAgain() {
  const session = useSession();
  const wrong = useQuery({
    queryKey: ["own", "claim", session.person],
    queryFn: async () => (await keptKey((await value("actor"))?.key ?? ""))?.claim?.wrong ?? "",
    enabled: session.claimed,
    staleTime: 0,
    refetchInterval: 2000,
  });
  const again = useMutation({ mutationFn: claimAgain, onSuccess: () => wrong.refetch() });
  if (!session.claimed) return null;
  if (!wrong.data) {
    return (
      <p className="mb-4 rounded-xl bg-quiet p-3">
        Taken over without the network. The PIN is checked as soon as Ulsek is back; until then it is noted as not confirmed.
      </p>
    );
  }
  return (
    <div className="mb-5">
      <p role="alert" className="mb-2 font-semibold text-warn">
        {wrong.data} Type it again, or what was done since then waits for the lead.
      </p>
      <PinPad name={session.name} busy={again.isPending} error={again.error} onPin={(pin) => again.mutate(pin)} />
    </div>
  );
}
