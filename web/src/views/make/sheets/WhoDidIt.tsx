import { listed } from "../../../parts/say";
import type { Run } from "../run/useBench";

/** “Jonas 4 · Noor 2, of them 1 not signed”: by whom a batch was made, and what shows it. */
export function whoDidIt(events: Run["events"]): string[] {
  const people = new Map<string, { all: number; lead: number; unsigned: number }>();
  for (const { by, proof, kind } of events) {
    if (kind === "started") continue;
    const count = people.get(by) ?? { all: 0, lead: 0, unsigned: 0 };
    people.set(by, { all: count.all + 1, lead: count.lead + Number(proof === "lead"), unsigned: count.unsigned + Number(!proof) });
  }
  return [...people].map(([by, { all, lead, unsigned }]) => {
    const notes = [lead ? `${lead} accepted by a lead` : "", unsigned ? `${unsigned === all ? "" : `${unsigned} `}not signed` : ""].filter(
      Boolean,
    );
    return `${by} ${all}${notes.length ? ` (${listed(notes)})` : ""}`;
  });
}

/** Who did what so far, and whether that is shown by their own key. */
export function WhoDidIt({ run }: { run: Run }) {
  const lines = whoDidIt(run.events);
  return lines.length ? <p className="mt-3 text-[16px] text-soft">By whom: {lines.join(" · ")}</p> : null;
}
