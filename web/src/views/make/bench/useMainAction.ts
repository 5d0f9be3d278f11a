import { canMake, useSession } from "../../../session/session";
import { amountEvent } from "../run/amountEvent";
import type { Bench, Run } from "../run/useBench";
import type { OpenSheet } from "../sheets/sheetProps";
import { type AtHand, actionOf, actionWords } from "./atHand";
import { useShownFor } from "./useShownFor";
import { useMovesOn, useWeighing } from "./useWeighing";

/** Nobody reads a new word and presses it in less. */
const READ_MS = 250;

/** The one thing that is done next, its words, and whether a press counts: only for an action that was shown long enough to be read. */
export function useMainAction(run: Run, bench: Bench, hand: AtHand, open: (sheet: OpenSheet) => void) {
  const session = useSession();
  const { step, line } = hand;
  const mayMake = canMake(session) && run.state.status === "open";
  const weighing = useWeighing(run, line, step?.id ?? null);
  const { taken } = weighing;
  const action = actionOf(hand, taken !== null);
  const shownLong = useShownFor(`${step?.id} ${line?.id} ${action}`, READ_MS);
  const ready = shownLong && !bench.settling;
  const take = () => {
    if (!line || !taken) return;
    void bench.record(amountEvent(run, line, "weighed", taken.value));
    weighing.next();
  };
  useMovesOn(weighing, line, mayMake, take);
  const act = () => {
    if (!step || !mayMake || !ready) return;
    if (action === "take") take();
    else if (action === "type") open("weigh");
    else if (action === "begin") void bench.record(["step_begun", { step: step.id }]);
    else if (action === "finish") open("finish");
    else void bench.record(["step_done", { step: step.id }]);
  };
  const stopHere = () => {
    const { watch } = run.state;
    if (!step || !watch?.changes) return;
    void bench.record(["step_changed", { step: step.id, changes: watch.changes }], ["step_done", { step: step.id }]);
  };
  return { words: actionWords(hand, taken?.says ?? null), act, ready, mayMake, weighing, stopHere };
}
