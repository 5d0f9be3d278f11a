import { useState } from "react";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Sheet } from "../../../parts/Sheet";
import { useSession } from "../../../session/session";
import type { SheetProps } from "./sheetProps";

/** Somebody else goes on: what is done, what waits, what is odd, in one look. */
export function HandOver({ open, onClose, run, now, bench }: SheetProps) {
  const [to, setTo] = useState("");
  const { others = [] } = useSession();
  const { state } = run;
  const hand = (name: string) => {
    onClose();
    setTo("");
    void bench.record(["handed_over", { to: name }]);
  };
  const odd = [
    ...state.deviations.filter((item) => !item.quiet).map((item) => item.text),
    ...state.readings.filter((item) => !item.agrees).map((item) => item.text),
    ...state.repairs.filter((item) => item.state === "put off").map(() => "A way back was put off and waits."),
  ];
  const done = state.steps.filter((step) => step.state === "done");
  return (
    <Sheet open={open} onClose={onClose} title="Hand over" about={`${run.code} · ${run.name}`} wide>
      <div className="grid gap-4 text-[20px]">
        <p>
          <b>Done:</b> {done.length ? done.map((step) => step.title).join(" · ") : "nothing yet"}
        </p>
        <p>
          <b>Now:</b> {now.step ? now.step.title : "the bottles"}
          {state.watch ? ` — ${state.watch.text}` : ""}
        </p>
        <p>
          <b>Odd:</b> {odd.length ? odd.join(" ") : "nothing"}
        </p>
        {state.hands.length ? (
          <p>
            <b>Hands so far:</b> {run.started_by} → {state.hands.join(" → ")}
          </p>
        ) : null}
        {others.length ? (
          <div className="flex flex-wrap gap-2.5">
            {others.map((name) => (
              <Button key={name} size="bench" look="main" onClick={() => hand(name)}>
                To {name}
              </Button>
            ))}
          </div>
        ) : null}
        <form
          className="flex items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (to.trim()) hand(to.trim());
          }}
        >
          <Field label={others.length ? "Or somebody else" : "Who goes on"} size="bench" value={to} onChange={setTo} className="flex-1" />
          <Button size="bench" look={others.length ? "plain" : "main"} type="submit" disabled={!to.trim()}>
            Hand over
          </Button>
        </form>
      </div>
    </Sheet>
  );
}
