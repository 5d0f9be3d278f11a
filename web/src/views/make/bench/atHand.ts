/** What is at hand in a batch: which step, whether it waits, what its one button does, what has to be said. Reading off, no rule of the job. */

import type { Schemas } from "../../../api/client";
import { massOf, type Now, nowOf, withPoured } from "../run/now";
import type { Run } from "../run/useBench";

type State = Schemas["RunResult"];

/** What the one button does: keep what the scale shows, ask for a weight, start the clock, finish the batch, go to the next step. */
export type Action = "take" | "type" | "begin" | "finish" | "done";

export interface AtHand extends Now {
  /** The step at hand takes time, and all of it is in. */
  waits: boolean;
  begun: string | null;
  /** Nothing comes after the step at hand. */
  last: boolean;
  watched: State["watch"];
  planned: number | null;
  tolerance: number;
  /** What is in the vessel [g]. */
  mass: number;
  volume: number;
  vessel: Run["vessels"][number] | undefined;
  /** A deviation that was not told yet, the last reading, the line whose dose was just taken. */
  told: State["deviations"][number] | undefined;
  reading: State["readings"][number] | undefined;
  dosed: Schemas["RunLine"] | undefined;
  /** The step after which a sample is kept that nobody has set aside. */
  unsampled: Schemas["RunStep"] | undefined;
  repair: State["repairs"][number] | undefined;
  putOff: State["repairs"][number] | undefined;
}

export function atHand(run: Run): AtHand {
  const { state } = run;
  const now = nowOf(state);
  const { step, line } = now;
  const begun = step?.begun_at ?? null;
  return {
    ...now,
    waits: step !== null && (step.minutes !== null || step.watched) && line === null,
    begun,
    last: step !== null && now.next === null,
    watched: begun && state.watch?.charted ? state.watch : null,
    planned: line?.planned_g?.value ?? null,
    tolerance: line?.tolerance_g ?? 0,
    mass: massOf(now.bands),
    volume: state.evaluation.final?.volume_ml.value ?? 0,
    vessel: run.vessels.find((item) => item.id === step?.vessel) ?? run.vessels[0],
    told: state.deviations.filter((item) => !item.quiet).at(-1),
    reading: state.readings.at(-1),
    dosed: step?.lines.findLast((item) => item.actual_g !== null && item.dose),
    unsampled: state.steps.find((item) => item.id === state.sample_due),
    repair: state.repairs.find((item) => item.id === state.repair_at_hand),
    putOff: state.repairs.find((item) => item.state === "put off"),
  };
}

/** What a press of the button does. `taken`: the scale shows what could be kept. */
export function actionOf({ line, waits, begun, last }: Pick<AtHand, "line" | "waits" | "begun" | "last">, taken: boolean): Action {
  if (line) return taken ? "take" : "type";
  if (waits && !begun) return "begin";
  return last ? "finish" : "done";
}

/** What stands on the button. `says`: what the scale offers to keep. */
export function actionWords(hand: Pick<AtHand, "line" | "waits" | "begun" | "last" | "next">, says: string | null): string {
  switch (actionOf(hand, says !== null)) {
    case "take":
      return says ?? "";
    case "type":
      return "Type the weight";
    case "begin":
      return "Start the clock";
    case "finish":
      return "Bottles are full";
    case "done":
      return hand.next ? `Next: ${shortTitle(hand.next.title)}` : "Next";
  }
}

/** What it is; how hot and how long stands on its own screen. */
function shortTitle(title: string): string {
  const [what = title] = title.split(",");
  return `${what.charAt(0).toLowerCase()}${what.slice(1)}`;
}

/** The vessel with what is being poured in it, as far as the scale shows. */
export function beingPoured(run: Run, { step, line, bands, planned }: AtHand, live: number | null): AtHand["bands"] {
  if (!step || !line || !planned) return bands;
  const flow = run.state.evaluation.steps.find((item) => item.id === step.id);
  const added = flow?.added.find((item) => item.line === line.id);
  return added ? withPoured(bands, added.bands, Math.max(0, live ?? 0) / planned) : bands;
}
