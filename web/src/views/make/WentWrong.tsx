import { useState } from "react";
import type { FigureKey } from "../../api/figures";
import { Button } from "../../parts/Button";
import { figure, GAP, withUnit } from "../../parts/numbers";
import { Sheet } from "../../parts/Sheet";
import { MaterialPicker } from "../specs/MaterialPicker";
import { Keypad } from "./Keypad";
import { massOf } from "./now";
import type { SheetProps } from "./sheetProps";
import type { Bench, Run } from "./useBench";
import { WENT_IN } from "./WeighSheets";

/** The newest thing that can be taken back, in words. */
function lastEvent(run: Run): { id: string; words: string } | null {
  const event = run.events.findLast((item) => item.kind !== "started" && item.kind !== "finished");
  if (!event) return null;
  const body = event.body ?? {};
  const line = run.state.steps.flatMap((step) => step.lines).find((item) => item.id === body.line);
  const step = run.state.steps.find((item) => item.id === body.step);
  const words: Record<string, string> = {
    counted: `${Number(body.count)} ${line?.name.toLowerCase() ?? ""}`,
    measured: `${figure(Number(body.volume_ml))}${GAP}mL ${line?.name.toLowerCase() ?? ""}`,
    dosed: `${Number(body.drops)} drops of ${line?.name.toLowerCase() ?? ""}`,
    went_on: `going on with another crate of ${line?.name.toLowerCase() ?? "it"}`,
    taken_from: `where ${line?.name.toLowerCase() ?? "that line"} comes from`,
    sampled: `the sample of ${figure(Number(body.mass_g))}${GAP}g`,
    tasted: "what was tasted",
    step_added: "the extra step",
    weighed: `${figure(Number(body.mass_g))}${GAP}g ${line?.name.toLowerCase() ?? ""}`,
    read: body.value === undefined ? "the titration" : `the reading of ${withUnit(body.property as FigureKey, Number(body.value))}`,
    step_begun: `the start of “${step?.title}”`,
    step_done: `the end of “${step?.title}”`,
    step_skipped: `the skipping of “${step?.title}”`,
    step_first: `bringing “${step?.title}” forward`,
    spilled: `the spill of ${figure(Number(body.mass_g))}${GAP}g`,
    wrong_jar: `the other jar for ${line?.name.toLowerCase() ?? "that line"}`,
    noted: `the note “${String(body.text)}”`,
    handed_over: `handing over to ${String(body.to)}`,
    step_changed: `how “${step?.title}” was done`,
    repair_taken: "the repair that was taken",
    repair_put_off: "putting the repair off",
    repair_refused: "leaving it as it is",
  };
  return { id: event.id, words: words[event.kind] ?? event.kind };
}

export function WentWrong({ open, onClose, run, now, bench }: SheetProps) {
  const [spilling, setSpilling] = useState(false);
  const latest = lastEvent(run);
  const { step } = now;
  const close = () => {
    setSpilling(false);
    onClose();
  };
  const send = (...happened: Parameters<Bench["record"]>) => {
    close();
    void bench.record(...happened);
  };
  const done = run.state.steps.findLast((item) => item.state === "done");
  const weighed = run.events.findLast((item) => WENT_IN.includes(item.kind))?.body?.line;
  const jar = run.state.steps.flatMap((item) => item.lines).find((item) => item.id === weighed && item.actual_g !== null);
  if (spilling) {
    const place = step?.lines.some((item) => item.actual_g !== null) ? step : done;
    return (
      <Keypad
        open={open}
        title="Spilled"
        about="Weigh the vessel again, or guess well."
        label="How much went"
        unit="g"
        keepAs={`${run.id}.spill`}
        onClose={close}
        onDone={(mass_g) => (place ? send(["spilled", { step: place.id, mass_g }]) : close())}
      />
    );
  }
  return (
    <Sheet open={open} onClose={close} title="Went wrong" about="What happened is kept; what follows from it is worked out again.">
      <div className="grid gap-3">
        {latest ? (
          <Button size="bench" onClick={() => send(["undone", { of: latest.id }])}>
            Take back {latest.words}
          </Button>
        ) : null}
        {jar ? (
          <MaterialPicker
            size="bench"
            label={`Wrong jar: it was not ${jar.name.toLowerCase()}`}
            onPick={(material) => send(["wrong_jar", { line: jar.id, material }])}
          />
        ) : null}
        {massOf(now.bands) > 0 ? (
          <Button size="bench" onClick={() => setSpilling(true)}>
            Spilled some
          </Button>
        ) : null}
        {step ? (
          <Button size="bench" look="warn" onClick={() => send(["step_skipped", { step: step.id }])}>
            Skip “{step.title}”
          </Button>
        ) : null}
      </div>
    </Sheet>
  );
}
