import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { SCALE } from "../../../api/rules";
import { Gauge } from "../../../gauge/Gauge";
import { Button } from "../../../parts/Button";
import { useKeys } from "../../../parts/keys";
import { figure, GAP } from "../../../parts/numbers";
import { useSession } from "../../../session/session";
import { WaitLabel } from "../run/RunLabels";
import type { Bench, Run } from "../run/useBench";
import { BenchSheets } from "../sheets/BenchSheets";
import type { OpenSheet } from "../sheets/sheetProps";
import { atHand, beingPoured } from "./atHand";
import { BatchFinished } from "./BatchFinished";
import { BenchButtons } from "./BenchButtons";
import { BigFigure } from "./BigFigure";
import { Instruction } from "./Instruction";
import { runKeys } from "./runKeys";
import { spoken } from "./spoken";
import { useAwake } from "./useAwake";
import { useMainAction } from "./useMainAction";
import { WatchChart, WatchFigure } from "./WatchPanel";

/** A finished batch leads to its bottles. Worked out here, they have no numbers yet: the site gives them, unless it is away. */
function useFinished(run: Run, alone: boolean, sheet: OpenSheet, close: () => void): void {
  const go = useNavigate();
  const [lot] = run.lots;
  const { status } = run.state;
  useEffect(() => {
    if (status !== "finished" || sheet !== "finish") return;
    if (lot) void go(`/lots/${lot}`);
    else if (run.finished_at || alone) close();
  }, [status, lot, run.finished_at, alone, sheet, go, close]);
}

/** A batch as it stands: the instruction, the figure, the vessel, and what may be done. */
export function BenchBody({ run, bench }: { run: Run; bench: Bench }) {
  const { zone } = useSession();
  const [sheet, setSheet] = useState<OpenSheet>(null);
  const [close] = useState(() => () => setSheet(null));
  const hand = atHand(run);
  const { step, line, watched, begun, planned, tolerance, mass, vessel, putOff } = hand;
  useFinished(run, bench.alone, sheet, close);
  useAwake(run.state.status === "open");
  const { words, act, ready, mayMake, weighing, stopHere } = useMainAction(run, bench, hand, setSheet);
  const mayType = line !== null && !bench.settling;
  useKeys(runKeys({ mayMake, mayType, mayDraw: line !== null && !run.rehearsal, words, act, tare: weighing.tare, open: setSheet }));
  const label = step?.wants_label && begun && mayMake && !run.rehearsal ? <WaitLabel key={step.id} run={run.id} step={step.id} /> : null;
  return (
    <main className="flex flex-1 flex-col gap-3.5 p-3 md:p-5">
      <p aria-live="polite" className="sr-only">
        {spoken(hand, run.state.steps.length)}
      </p>
      <div className="grid flex-1 gap-5 lg:grid-cols-[minmax(0,1fr)_380px]">
        <section className="tray flex flex-col gap-4 p-5 md:p-8" aria-label="What to do">
          {step ? (
            <>
              <Instruction
                run={run}
                bench={bench}
                hand={hand}
                weighing={weighing}
                mayMake={mayMake}
                onOpen={setSheet}
                onStop={stopHere}
                label={label}
              />
              <div className="mt-auto flex flex-wrap items-end justify-between gap-6 pt-4">
                {watched ? <WatchFigure watch={watched} /> : <BigFigure hand={hand} live={weighing.value} zone={zone} />}
                {run.rehearsal ? weighing.controls : null}
                {mass > SCALE.empty_g && !watched ? (
                  <p className="text-right text-[22px] leading-tight text-soft">
                    in the {vessel?.name ?? "vessel"}
                    <br />
                    <span className="figures text-[34px] font-bold text-ink">
                      {figure(mass, 0)}
                      {GAP}g
                    </span>
                  </p>
                ) : null}
              </div>
            </>
          ) : (
            <BatchFinished run={run}>
              {mayMake ? (
                <Button size="bench" look="main" className="justify-self-start" onClick={() => setSheet("finish")}>
                  Bottles are full
                </Button>
              ) : null}
            </BatchFinished>
          )}
        </section>
        <section className="tray hidden p-5 lg:flex lg:flex-col [&>figure]:h-auto [&>figure]:flex-1" aria-label="The vessel">
          {label}
          {watched && begun ? (
            <WatchChart watch={watched} begun={begun} />
          ) : (
            <Gauge
              bands={beingPoured(run, hand, weighing.value)}
              target={planned === null ? null : mass + planned}
              tolerance={tolerance}
              vessel={vessel?.name ?? "vessel"}
              room={vessel?.capacity_ml ? `${figure(vessel.capacity_ml / 1000, 1)}${GAP}L` : ""}
            >
              {run.rehearsal ? null : weighing.controls}
            </Gauge>
          )}
        </section>
      </div>
      {mayMake && step ? <BenchButtons words={words} ready={ready} onAct={act} onOpen={setSheet} /> : null}
      <BenchSheets open={sheet} onOpen={setSheet} onClose={close} run={run} now={hand} bench={bench} {...(putOff ? { putOff } : {})} />
    </main>
  );
}
