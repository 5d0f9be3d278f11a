import { useState } from "react";
import { Button } from "../../../parts/Button";
import { Sheet } from "../../../parts/Sheet";
import { WayOut } from "../../../parts/WayOut";

/** The list on paper, as text to be sent, and as a calendar. */
export function HandOut({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [said, setSaid] = useState("");
  const text = async () => {
    const answer = await fetch("/api/plan/list.txt");
    const words = await answer.text();
    if (!answer.ok) return setSaid("The list could not be fetched.");
    // Not every browser can share.
    const share = (navigator as { share?: (data: { text: string }) => Promise<void> }).share?.bind(navigator);
    if (share) return share({ text: words }).catch(() => setSaid("Nothing was sent."));
    return navigator.clipboard
      .writeText(words)
      .then(() => setSaid("Copied: paste it into a message."))
      .catch(() => setSaid("This browser does not let it be copied; open it instead."));
  };
  return (
    <Sheet open={open} onClose={onClose} title="Hand out today's list" about="As it is now. What is made later stands in Make.">
      <div className="grid gap-2.5">
        <WayOut href="/api/plan/list.pdf" opened>
          Print it
        </WayOut>
        <Button className="min-h-14 rounded-xl text-[17px]" onClick={() => void text()}>
          Send it as text
        </Button>
        <WayOut href="/api/plan/list.txt" opened>
          Open it as text
        </WayOut>
        <WayOut href="/api/plan/list.ics">Into a calendar</WayOut>
      </div>
      <p role="status" className="mt-3 text-soft">
        {said}
      </p>
    </Sheet>
  );
}
