import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { useInstruments } from "../../../instruments/useInstruments";
import type { Run } from "../run/useBench";
import type { Live } from "./Keypad";

/** The name of the instrument that measures a property, whether it shows anything now or not. */
export function useAwaited(run: Run, property: string | null): string | undefined {
  const { items } = useInstruments();
  return run.rehearsal ? undefined : items.find((item) => property !== null && item.shown?.property === property)?.name;
}

/** What an instrument shows of a property now; in a rehearsal, what its simulated one shows. */
export function useProbe(run: Run, property: string | null): (Live & { checked?: boolean }) | null {
  const { items } = useInstruments();
  const rehearsed = useQuery({ ...ask.rehearsal(run.id, run.lamport), enabled: run.rehearsal && property !== null });
  if (property === null) return null;
  if (run.rehearsal) {
    const value = rehearsed.data?.probes[property];
    return value === undefined ? null : { name: "rehearsal", value, steady: true };
  }
  const found = items.find((item) => item.shown?.property === property && item.shown.state === "live" && item.shown.value !== null);
  if (!found?.shown || found.shown.value === null) return null;
  return { name: found.name, value: found.shown.value, steady: found.shown.steady, checked: found.shown.checked };
}
