import { useEffect, useSyncExternalStore } from "react";
import { askSeat, type KeptSeat, keptSeat, onSeat, sendAnswers } from "../../../sync/seat";

const LOOK_MS = 5000;
let last: { text: string; kept: KeptSeat | null } = { text: "null", kept: null };

/** The same object as long as nothing of it has changed. */
function now(): KeptSeat | null {
  const kept = keptSeat();
  const text = JSON.stringify(kept);
  if (text !== last.text) last = { text, kept };
  return last.kept;
}

/** The seat of this phone. While it is shown, what waits is sent as soon as it can be, and the site is asked whether there is a reason to stop. */
export function useSeat(): KeptSeat | null {
  const kept = useSyncExternalStore(onSeat, now);
  const secret = kept?.secret ?? "";
  const isOpen = kept?.seat.state === "open";
  useEffect(() => {
    if (!secret) return;
    const look = () =>
      void sendAnswers()
        .then(askSeat)
        .catch(() => undefined);
    look();
    addEventListener("online", look);
    const timer = isOpen ? setInterval(look, LOOK_MS) : undefined;
    return () => {
      removeEventListener("online", look);
      clearInterval(timer);
    };
  }, [secret, isOpen]);
  return kept;
}
