/** The runs that this device knows, so that their benches go on without the network. */

import type { Schemas } from "../api/client";
import { database, type KeptRun } from "./database";
import { waitingIn } from "./queue";

const MOST_RUNS = 12;

/** Keeps a run as it is known now; the ones not looked at for longest make room, but not while something of them waits. */
export async function keepRun(run: Schemas["RunOut"], pinned: Schemas["OfflineOut"] | null): Promise<void> {
  const db = await database();
  const before = await db.get("runs", run.id);
  const known = await db.getAll("runs");
  const turn = Math.max(0, ...known.map((item) => item.turn ?? 0)) + 1;
  await db.put("runs", { id: run.id, run, pinned: pinned ?? before?.pinned ?? null, turn });
  const oldest = known.filter((item) => item.id !== run.id).sort((one, other) => (one.turn ?? 0) - (other.turn ?? 0));
  for (const { id } of oldest.slice(0, Math.max(0, oldest.length + 1 - MOST_RUNS))) {
    if ((await waitingIn(id)).length === 0) await db.delete("runs", id);
  }
}

/** What a run that an earlier application kept does not say, until the site or the fold here says it anew. */
const UNSAID = { passed_over: [], asked_at_finish: [], repair_at_hand: null, suggested_ml: null };

const filledIn = (run: Schemas["RunOut"]): Schemas["RunOut"] => ({ ...run, state: { ...UNSAID, ...run.state } });

export async function keptRun(id: string): Promise<KeptRun | undefined> {
  const kept = await (await database()).get("runs", id);
  return kept && { ...kept, run: filledIn(kept.run), ...(kept.alone ? { alone: filledIn(kept.alone) } : {}) };
}

/** Keeps what was worked out here, so that it stands at once after a reload. */
export async function keepAlone(run: Schemas["RunOut"]): Promise<void> {
  const db = await database();
  const before = await db.get("runs", run.id);
  if (before) await db.put("runs", { ...before, alone: run });
}

/** Forgets runs: all of them at a sign-out; at a switch those that only their own person may see. */
export async function forgetRuns(which: "all" | "rehearsals"): Promise<void> {
  const db = await database();
  for (const item of await db.getAll("runs")) {
    if (which === "all" || (item.run.rehearsal && !item.run.shared)) await db.delete("runs", item.id);
  }
}
