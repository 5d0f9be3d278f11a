import type { ReactNode } from "react";
import { Button } from "../../../parts/Button";
import { Notice } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import { useSession } from "../../../session/session";
import type { Bench, Run } from "../run/useBench";
import { RepairCard } from "../sheets/RepairCard";
import { SupplyLine } from "../sheets/SupplySheet";
import type { OpenSheet } from "../sheets/sheetProps";
import type { AtHand } from "./atHand";
import { Told } from "./Told";
import type { Weighing } from "./useWeighing";
import { WatchWords } from "./WatchPanel";

export interface InstructionProps {
  run: Run;
  bench: Bench;
  hand: AtHand;
  weighing: Weighing;
  mayMake: boolean;
  onOpen: (sheet: OpenSheet) => void;
  onStop: () => void;
  /** The label of what waits, where one is wanted. */
  label: ReactNode;
}

/** The one instruction: what is weighed or done now, and everything that has to be said beside it. */
export function Instruction({ run, bench, hand, weighing, mayMake, onOpen, onStop, label }: InstructionProps) {
  const { zone } = useSession();
  const { step, line, number, begun, told, dosed, reading, unsampled, repair } = hand;
  const { state } = run;
  if (!step) return null;
  return (
    <>
      <div>
        <p className="text-[20px] text-soft">
          Step {number} of {state.steps.length} · {run.name.toLowerCase()} · {run.code}
        </p>
        <h1 className="text-[clamp(34px,5vw,52px)]">{line ? line.name : step.title}</h1>
        {line ? <p className="text-[22px] text-soft">{step.title}</p> : null}
        {line && !run.rehearsal ? <SupplyLine run={run} line={line} onOpen={() => onOpen("supply")} /> : null}
        {step.note ? <p className="mt-1 text-[22px] text-soft">{step.note.charAt(0).toUpperCase() + step.note.slice(1)}.</p> : null}
        {step.check && !line ? <p className="mt-1 text-[22px]">Done when: {step.check}.</p> : null}
      </div>
      {run.withdrawn ? <Stops>This version was withdrawn: {run.withdrawn}. Stop, and ask your lead.</Stops> : null}
      {run.recalled ? (
        <Stops>This batch holds something that was recalled: {run.recalled}. Stop, and ask your lead; nobody may pour it.</Stops>
      ) : null}
      {bench.refused ? <Stops>{bench.refused}</Stops> : null}
      {state.conflicts.map((text) => (
        <Told key={text} rim="warn">
          {text}
        </Told>
      ))}
      {weighing.lost ? <Told rim="warn">The {weighing.lost} is lost: type the weight. It is looked for again.</Told> : null}
      {weighing.behind ? (
        <Told rim="warn">
          {figure(weighing.behind)}
          {GAP}g are in, and the scale shows less: put the vessel back as it was, or type all of the weight.
        </Told>
      ) : null}
      {told ? <Told rim="sugar">{told.text}</Told> : null}
      {dosed && told?.line !== dosed.id ? (
        <Told>
          {dosed.name}: {dosed.dose}.
        </Told>
      ) : null}
      {state.watch && begun ? (
        <WatchWords watch={state.watch} begun={begun} zone={zone} mayMake={mayMake} onRead={() => onOpen("reading")} onStop={onStop} />
      ) : null}
      {label ? <div className="lg:hidden">{label}</div> : null}
      {unsampled && mayMake ? (
        <div className="flex flex-wrap items-center justify-between gap-3 rounded-[14px] border-l-[9px] border-rim bg-quiet p-4 text-[20px]">
          <p>A sample is kept after “{unsampled.title}”: it shows the colour later.</p>
          <Button size="bench" onClick={() => onOpen("sample")}>
            Set it aside
          </Button>
        </div>
      ) : null}
      {repair && mayMake ? <RepairCard repair={repair} record={bench.record} /> : null}
      {reading ? <Told rim={reading.agrees ? "good" : "warn"}>{reading.text}</Told> : null}
    </>
  );
}

function Stops({ children }: { children: ReactNode }) {
  return (
    <div className="text-[20px]">
      <Notice severity="stop" live>
        {children}
      </Notice>
    </div>
  );
}
