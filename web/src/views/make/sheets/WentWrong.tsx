import { useState } from "react";
import { Button } from "../../../parts/Button";
import { MaterialPicker } from "../../../parts/MaterialPicker";
import { Sheet } from "../../../parts/Sheet";
import { thatCount } from "../../../sync/event";
import { isAmount } from "../run/amountEvent";
import { lastReversible } from "../run/eventWords";
import { massOf } from "../run/now";
import type { Bench } from "../run/useBench";
import { Keypad } from "./Keypad";
import type { SheetProps } from "./sheetProps";

export function WentWrong({ open, onClose, run, now, bench }: SheetProps) {
  const [spilling, setSpilling] = useState(false);
  const latest = lastReversible(run);
  const { step } = now;
  const close = () => {
    setSpilling(false);
    onClose();
  };
  const send = (...happened: Parameters<Bench["record"]>) => {
    close();
    void bench.record(...happened);
  };
  const weighed = thatCount(run).findLast(isAmount)?.body.line;
  const jar = run.state.steps.flatMap((item) => item.lines).find((item) => item.id === weighed && item.actual_g !== null);
  if (spilling) {
    const place = now.touched;
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
