import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useRef } from "react";
import { ask } from "../../../api/queries";
import { tell, useScale } from "../../../instruments/useInstruments";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import type { Now } from "../run/now";
import type { Run } from "../run/useBench";
import { isWithin, type OnScale, onScale, takes } from "./onScale";
import { usePour } from "./usePour";

export interface Weighing extends OnScale {
  /** The scale that was there and is not. */
  lost: string | null;
  byItself: boolean;
  tare: () => void;
  next: () => void;
  controls: ReactNode;
}

/** The live weight of the line at hand: from the bench's scale, or in a rehearsal from a pour that runs. */
export function useWeighing(run: Run, line: Now["line"], step: string | null): Weighing {
  const { scale, scales, pick, byItself, moveOn } = useScale();
  const rehearsed = useQuery({ ...ask.rehearsal(run.id, run.lamport), enabled: run.rehearsal && line !== null });
  const pour = usePour(run.rehearsal && rehearsed.data?.line === line?.id ? (rehearsed.data?.pour ?? null) : null, `${step}.${line?.id}`);
  if (run.rehearsal) {
    return {
      value: line ? pour.value : null,
      steady: pour.steady,
      taken: line && pour.steady ? takes(pour.value) : null,
      lost: null,
      behind: 0,
      byItself: false,
      tare: pour.reset,
      next: pour.reset,
      controls: line ? (
        <div className="grid gap-2">
          <Button size="bench" look={pour.pouring ? "warn" : "plain"} onClick={pour.toggle} disabled={pour.empty || !rehearsed.data?.pour}>
            {pour.pouring ? "Stop" : pour.value > 0 ? "Pour on" : "Pour"}
          </Button>
          {pour.empty ? <p className="text-[20px] font-bold text-warn">The jar is empty.</p> : null}
        </div>
      ) : null,
    };
  }
  const shown = scale?.shown ?? null;
  const tare = () => {
    if (scale) void tell(scale.id, "tare");
  };
  const controls =
    line && scales.length ? (
      <div className="mt-3 grid justify-items-center gap-1 text-[18px] text-ink">
        <div className="flex flex-wrap items-center justify-center gap-2">
          <Choice
            size="bench"
            label="Scale of this bench"
            value={scale?.id ?? "none"}
            options={[...scales.map((item) => ({ value: item.id, label: item.name })), { value: "none", label: "no scale here" }]}
            onChange={pick}
          />
          {scale ? (
            <Button onClick={tare} shortcut="0" className="min-h-16 px-6 text-[18px]">
              Tare
            </Button>
          ) : null}
        </div>
        {scale ? (
          <label className="flex min-h-14 items-center gap-3">
            <input type="checkbox" className="size-6 accent-rim" checked={byItself} onChange={(event) => moveOn(event.target.checked)} />
            moves on by itself
          </label>
        ) : null}
        {shown?.value === null && shown.state === "live" ? <p className="font-bold text-warn">More than the scale carries.</p> : null}
      </div>
    ) : null;
  return {
    ...onScale(shown, line),
    lost: line && scale && shown?.state === "lost" ? scale.name : null,
    byItself,
    tare,
    next: tare,
    controls,
  };
}

const HOLDS_MS = 1200;

/** Takes a weight by itself once it has been within tolerance for a moment; only where somebody wanted that. */
export function useMovesOn(weighing: Weighing, line: Now["line"], mayMake: boolean, take: () => void) {
  const latest = useRef(take);
  latest.current = take;
  const due = mayMake && weighing.byItself && isWithin(weighing.taken?.value ?? null, line);
  useEffect(() => {
    if (!due) return;
    const timer = setTimeout(() => latest.current(), HOLDS_MS);
    return () => clearTimeout(timer);
  }, [due]);
}
