import { useEffect, useState } from "react";
import { Link } from "react-router";
import { Sheet } from "../parts/Sheet";
import { value } from "../sync/database";
import { RefusedList } from "./RefusedList";
import { useAway, useQueue } from "./useQueue";
import { waitingWords } from "./waitingWords";

/** What was done a moment ago and is on its way is not worth a word. */
const SOON_MS = 2500;

/** One quiet line at the top of every screen: since when Ulsek is away, what waits on this device and by whom, and what was refused. */
export function WaitingLine() {
  const queue = useQueue();
  const away = useAway();
  const [open, setOpen] = useState(false);
  const [zone, setZone] = useState("UTC");
  const [now, setNow] = useState(Date.now);
  const busy = queue.waiting.length > 0 || away !== null;
  useEffect(() => {
    void value("here").then(
      (here) => here && setZone(here.zone),
      () => undefined,
    );
    setNow(Date.now());
    if (!busy) return;
    const tick = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(tick);
  }, [busy]);
  const old = queue.waiting.filter((item) => away !== null || queue.signedOut || now - item.at >= SOON_MS);
  const text = waitingWords(old, away, queue.signedOut, zone, now);
  const count = queue.refused.length;
  if (!text && count === 0 && queue.held === 0) return null;
  return (
    <div className="flex flex-wrap items-center justify-between gap-x-4 border-b border-line bg-quiet px-4 py-1 text-[15px]">
      <p role="status" aria-label="What waits" className={`mr-auto ${old.length ? "font-semibold text-ink" : "text-soft"}`}>
        {text}
      </p>
      {count ? (
        <button type="button" onClick={() => setOpen(true)} className="min-h-11 font-bold text-warn underline">
          {count === 1 ? "1 was not taken: look" : `${count} were not taken: look`}
        </button>
      ) : null}
      {queue.held ? (
        <Link to="/house" className="inline-flex min-h-11 items-center font-bold text-rim underline">
          {queue.held === 1 ? "1 waits for you to decide" : `${queue.held} wait for you to decide`}
        </Link>
      ) : null}
      <Sheet
        open={open && count > 0}
        onClose={() => setOpen(false)}
        title="Not taken"
        about="Ulsek refused these. Each stays on this device until its person says what becomes of it."
        wide
      >
        <RefusedList items={queue.refused} />
      </Sheet>
    </div>
  );
}
