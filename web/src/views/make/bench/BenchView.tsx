import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { SCALE } from "../../../api/rules";
import { useKeys } from "../../../app/keys";
import { canMake, useSession } from "../../../app/session";
import { useQueue } from "../../../app/useQueue";
import { WaitingLine } from "../../../app/WaitingLine";
import { WhoIsHere } from "../../../app/WhoIsHere";
import { Gauge } from "../../../gauge/Gauge";
import { Button } from "../../../parts/Button";
import { Notice, Shape, Trouble } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import { clock } from "../../../parts/say";
import { useQuickSums } from "../../sums/useQuickSums";
import { amountEvent } from "../run/amountEvent";
import { massOf, type Now, nowOf, withPoured } from "../run/now";
import { WaitLabel } from "../run/RunLabels";
import { type Bench, type Run, useBench } from "../run/useBench";
import { BenchSheets } from "../sheets/BenchSheets";
import { RepairCard } from "../sheets/RepairCard";
import { SupplyLine } from "../sheets/SupplySheet";
import type { OpenSheet } from "../sheets/sheetProps";
import { BatchFinished } from "./BatchFinished";
import { BigFigure } from "./BigFigure";
import { RunRail } from "./RunRail";
import { useAwake } from "./useAwake";
import { useShownFor } from "./useShownFor";
import { useMovesOn, useWeighing } from "./useWeighing";
import { WatchChart, WatchFigure, WatchWords } from "./WatchPanel";

/** Nobody reads a new word and presses it in less. */
const READ_MS = 250;

/** A batch at the bench: one instruction, one figure, one gauge. */
export function BenchView() {
  const { run: id = "" } = useParams();
  return <BenchFrame key={id} id={id} />;
}

function BenchFrame({ id }: { id: string }) {
  const bench = useBench(id);
  const session = useSession();
  const { openSums } = useQuickSums();
  const unsent = useQueue().waiting.filter((item) => item.subject === id).length;
  const stamp = clock(new Date(), session.zone);
  return (
    <div className="flex min-h-[calc(100dvh-5px)] flex-col">
      <header className="flex flex-wrap items-center gap-x-1.5 bg-enamel px-2 py-2 sm:gap-x-4 sm:px-4 max-sm:[&>nav]:order-last max-sm:[&>nav]:basis-full max-sm:[&>p]:ml-auto">
        <Link to="/make" className="inline-flex min-h-14 items-center rounded-full px-3 text-[18px] font-semibold text-rim">
          ← Bench
        </Link>
        <RunRail current={id} />
        <Button onClick={() => openSums()} shortcut="Q" className="min-h-14 text-[18px]">
          Sums
        </Button>
        <p role="status" className={`text-right text-[18px] leading-tight ${unsent ? "font-bold text-warn" : "text-soft"}`}>
          {bench.alone ? "worked out on this device" : unsent ? `${unsent} kept here` : "all kept"}
          {bench.alone || unsent ? null : <span className="max-sm:hidden"> · {stamp}</span>}
        </p>
        <WhoIsHere size="bench" />
      </header>
      <WaitingLine />
      {bench.run ? (
        <BenchBody run={bench.run} bench={bench} />
      ) : bench.error ? (
        <div className="p-6">
          <Trouble error={bench.error} />
        </div>
      ) : (
        <Shape rows={6} />
      )}
    </div>
  );
}

function BenchBody({ run, bench }: { run: Run; bench: Bench }) {
  const session = useSession();
  const go = useNavigate();
  const [sheet, setSheet] = useState<OpenSheet>(null);
  const { state } = run;
  const now = nowOf(state);
  const mayMake = canMake(session) && state.status === "open";
  const { step, line } = now;
  const waits = step !== null && (step.minutes !== null || step.watched) && line === null;
  const begun = step?.begun_at ?? null;
  const last = step !== null && now.next === null;
  const putOff = state.repairs.find((repair) => repair.state === "put off");
  const watched = begun && state.watch?.charted ? state.watch : null;
  const shown = state.repairs.find((repair) => repair.id === state.repair_at_hand);

  useEffect(() => {
    const lot = run.lots[0];
    if (state.status !== "finished" || sheet !== "finish") return;
    if (lot) void go(`/lots/${lot}`);
    // Worked out here, its bottles have no numbers yet: the site gives them, unless it is away.
    else if (run.finished_at || bench.alone) setSheet(null);
  }, [state.status, run.lots, run.finished_at, bench.alone, sheet, go]);

  const unsampled = state.steps.find((item) => item.id === state.sample_due);
  useAwake(state.status === "open");
  const weighing = useWeighing(run, line, step?.id ?? null);
  const taken = weighing.taken;
  const primary = mainAction({ now, waits, begun, last, taken: taken?.says ?? null });
  // What the button does, whatever its figure shows: a press counts only for an action that was shown long enough to be read.
  const action = line ? (taken ? "take" : "type") : waits && !begun ? "begin" : last ? "finish" : "done";
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
    if (line && taken) take();
    else if (line) setSheet("weigh");
    else if (waits && !begun) void bench.record(["step_begun", { step: step.id }]);
    else if (last) setSheet("finish");
    else void bench.record(["step_done", { step: step.id }]);
  };
  const stopHere = () => {
    if (!step || !state.watch?.changes) return;
    void bench.record(["step_changed", { step: step.id, changes: state.watch.changes }], ["step_done", { step: step.id }]);
  };
  useKeys(
    mayMake
      ? [
          { key: " ", says: primary, does: act },
          { key: "Enter", says: primary, does: act },
          { key: "0", says: "tare the scale", does: weighing.tare },
          { key: "t", says: "look, smell, taste", does: () => setSheet("taste") },
          { key: "m", says: "more", does: () => setSheet("more") },
          { key: "e", says: "type a weight", does: () => line && !bench.settling && setSheet("weigh") },
          { key: "r", says: "reading", does: () => setSheet("reading") },
          { key: "w", says: "weigh ahead", does: () => setSheet("ahead") },
          { key: "f", says: "from another crate or bottle", does: () => line && !run.rehearsal && setSheet("supply") },
          { key: "h", says: "hand over", does: () => setSheet("hand") },
          { key: "x", says: "went wrong", does: () => setSheet("wrong") },
          { key: "l", says: "what happened so far", does: () => setSheet("story") },
        ]
      : [],
  );

  const planned = line?.planned_g?.value ?? null;
  const tolerance = line?.tolerance_g ?? 0;
  const mass = massOf(now.bands);
  const added =
    step && line ? state.evaluation.steps.find((flow) => flow.id === step.id)?.added.find((item) => item.line === line.id) : undefined;
  const poured = added && planned ? withPoured(now.bands, added.bands, Math.max(0, weighing.value ?? 0) / planned) : now.bands;
  const vessel = run.vessels.find((item) => item.id === step?.vessel) ?? run.vessels[0];
  const volume = state.evaluation.final?.volume_ml.value ?? 0;
  const told = state.deviations.filter((item) => !item.quiet).at(-1);
  const reading = state.readings.at(-1);
  const dosed = step?.lines.findLast((item) => item.actual_g !== null && item.dose);

  const wantsLabel =
    step?.wants_label && begun && mayMake && !run.rehearsal ? <WaitLabel key={step.id} run={run.id} step={step.id} /> : null;

  return (
    <main className="flex flex-1 flex-col gap-3.5 p-3 md:p-5">
      <div className="grid flex-1 gap-5 lg:grid-cols-[minmax(0,1fr)_380px]">
        <section className="tray flex flex-col gap-4 p-5 md:p-8" aria-label="What to do">
          {step ? (
            <>
              <div>
                <p className="text-[20px] text-soft">
                  Step {now.number} of {state.steps.length} · {run.name.toLowerCase()} · {run.code}
                </p>
                <h1 className="text-[clamp(34px,5vw,52px)]">{line ? line.name : step.title}</h1>
                {line ? <p className="text-[22px] text-soft">{step.title}</p> : null}
                {line && !run.rehearsal ? <SupplyLine run={run} line={line} onOpen={() => setSheet("supply")} /> : null}
                {step.note ? <p className="mt-1 text-[22px] text-soft">{step.note.charAt(0).toUpperCase() + step.note.slice(1)}.</p> : null}
                {step.check && !line ? <p className="mt-1 text-[22px]">Done when: {step.check}.</p> : null}
              </div>
              {run.withdrawn ? (
                <div className="text-[20px]">
                  <Notice severity="stop" live>
                    This version was withdrawn: {run.withdrawn}. Stop, and ask your lead.
                  </Notice>
                </div>
              ) : null}
              {run.recalled ? (
                <div className="text-[20px]">
                  <Notice severity="stop" live>
                    This batch holds something that was recalled: {run.recalled}. Stop, and ask your lead; nobody may pour it.
                  </Notice>
                </div>
              ) : null}
              {bench.refused ? (
                <div className="text-[20px]">
                  <Notice severity="stop" live>
                    {bench.refused}
                  </Notice>
                </div>
              ) : null}
              {state.conflicts.map((text) => (
                <p
                  key={text}
                  role="status"
                  className="rounded-[14px] border-l-[9px] border-warn bg-quiet p-4 text-[20px] leading-snug font-bold"
                >
                  {text}
                </p>
              ))}
              {weighing.lost ? (
                <p role="status" className="rounded-[14px] border-l-[9px] border-warn bg-quiet p-4 text-[20px] leading-snug font-bold">
                  The {weighing.lost} is lost: type the weight. It is looked for again.
                </p>
              ) : null}
              {weighing.behind ? (
                <p role="status" className="rounded-[14px] border-l-[9px] border-warn bg-quiet p-4 text-[20px] leading-snug font-bold">
                  {figure(weighing.behind)}
                  {GAP}g are in, and the scale shows less: put the vessel back as it was, or type all of the weight.
                </p>
              ) : null}
              {told ? (
                <p role="status" className="rounded-[14px] border-l-[9px] border-sugar bg-quiet p-4 text-[20px] leading-snug">
                  {told.text}
                </p>
              ) : null}
              {dosed && told?.line !== dosed.id ? (
                <p role="status" className="rounded-[14px] bg-quiet p-4 text-[20px] leading-snug">
                  {dosed.name}: {dosed.dose}.
                </p>
              ) : null}
              {state.watch && begun ? (
                <WatchWords
                  watch={state.watch}
                  begun={begun}
                  zone={session.zone}
                  mayMake={mayMake}
                  onRead={() => setSheet("reading")}
                  onStop={stopHere}
                />
              ) : null}
              {wantsLabel ? <div className="lg:hidden">{wantsLabel}</div> : null}
              {unsampled && mayMake ? (
                <div className="flex flex-wrap items-center justify-between gap-3 rounded-[14px] border-l-[9px] border-rim bg-quiet p-4 text-[20px]">
                  <p>A sample is kept after “{unsampled.title}”: it shows the colour later.</p>
                  <Button size="bench" onClick={() => setSheet("sample")}>
                    Set it aside
                  </Button>
                </div>
              ) : null}
              {shown && mayMake ? <RepairCard repair={shown} record={bench.record} /> : null}
              {reading ? (
                <p
                  role="status"
                  className={`rounded-[14px] border-l-[9px] bg-quiet p-4 text-[20px] leading-snug ${reading.agrees ? "border-good" : "border-warn font-bold"}`}
                >
                  {reading.text}
                </p>
              ) : null}
              <div className="mt-auto flex flex-wrap items-end justify-between gap-6 pt-4">
                {watched ? (
                  <WatchFigure watch={watched} />
                ) : (
                  <BigFigure
                    planned={planned}
                    tolerance={tolerance}
                    live={weighing.value}
                    waits={waits}
                    begun={begun}
                    minutes={step.minutes}
                    zone={session.zone}
                    last={last}
                    volume={volume}
                  />
                )}
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
          {wantsLabel}
          {watched && begun ? (
            <WatchChart watch={watched} begun={begun} />
          ) : (
            <Gauge
              bands={poured}
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
      {mayMake && step ? (
        <div className="grid grid-cols-3 gap-2.5 [&>button]:px-2 [&>button]:text-[20px] max-sm:[&>button]:px-2 max-sm:[&>button]:text-[18px] sm:gap-3.5 lg:grid-cols-[1.05fr_1.15fr_1fr_1.45fr_1.55fr_1fr_2.6fr]">
          <Button size="bench" onClick={() => setSheet("story")} shortcut="L">
            So far
          </Button>
          <Button size="bench" onClick={() => setSheet("reading")} shortcut="R">
            Reading
          </Button>
          <Button size="bench" onClick={() => setSheet("taste")} shortcut="T">
            Taste
          </Button>
          <Button size="bench" onClick={() => setSheet("wrong")} shortcut="X">
            Went wrong
          </Button>
          <Button size="bench" onClick={() => setSheet("ahead")} shortcut="W">
            Weigh ahead
          </Button>
          <Button size="bench" onClick={() => setSheet("more")} shortcut="M">
            More
          </Button>
          {/* A knuckle that taps twice must not do what the button says only since the first tap. */}
          <Button
            size="bench"
            look="main"
            onClick={(event) => event.detail < 2 && act()}
            aria-disabled={!ready}
            shortcut="space"
            className="col-span-3 max-lg:order-first lg:col-span-1"
          >
            {primary}
          </Button>
        </div>
      ) : null}
      <BenchSheets
        open={sheet}
        onOpen={setSheet}
        onClose={() => setSheet(null)}
        run={run}
        now={now}
        bench={bench}
        {...(putOff ? { putOff } : {})}
      />
    </main>
  );
}

interface Action {
  now: Now;
  waits: boolean;
  begun: string | null;
  last: boolean;
  taken: string | null;
}

function mainAction({ now, waits, begun, last, taken }: Action): string {
  if (now.line) return taken ?? "Type the weight";
  if (waits && !begun) return "Start the clock";
  if (last) return "Bottles are full";
  if (!now.next) return "Next";
  // What it is; how hot and how long stands on its own screen.
  const [what = now.next.title] = now.next.title.split(",");
  return `Next: ${what.charAt(0).toLowerCase()}${what.slice(1)}`;
}
