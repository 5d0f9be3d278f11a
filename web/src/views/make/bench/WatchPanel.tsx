import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { figure, GAP } from "../../../parts/numbers";
import { clock } from "../../../parts/say";
import { ring } from "./bell";
import { drawWatch } from "./watchLayout";

type Watch = Schemas["Watch"];
const SIZE = { width: 340, height: 430 };
const WORDS = { going: "On its way", near: "Nearly there", there: "It is there", past: "Past it" } as const;

interface WatchProps {
  watch: Watch;
  begun: string;
  zone: string;
}

/** A step that goes on by itself, in words: how far, when it will be there, the bell when it is, what to do when it went past. */
export function WatchWords({
  watch,
  begun,
  zone,
  mayMake,
  onRead,
  onStop,
}: WatchProps & { mayMake: boolean; onRead: () => void; onStop: () => void }) {
  const from = Date.parse(begun);
  const elapsed = useElapsed(from);
  const at = (minutes: number) => clock(new Date(from + minutes * 60_000), zone);
  const next = watch.moments_min.find((moment) => moment > elapsed);
  const bell = watch.rings_at_min !== null && elapsed >= watch.rings_at_min;
  const over = watch.over_at_min !== null && elapsed >= watch.over_at_min;
  useBell(bell, watch.state);
  return (
    <div
      role="status"
      className={`grid gap-3 rounded-[14px] border-l-[9px] bg-quiet p-4 text-[22px] leading-snug ${watch.warns || bell ? "border-warn" : "border-rim"}`}
    >
      <p>
        <b className={`mr-2 ${watch.warns ? "text-warn" : ""}`}>
          {over ? "Its time is over" : (WORDS[watch.state as keyof typeof WORDS] ?? watch.state)}.
        </b>
        {watch.text}
      </p>
      {watch.advice ? <p className={watch.warns ? "font-bold" : "text-[20px]"}>{watch.advice}</p> : null}
      {next !== undefined ? <p className="font-bold">Next look at {at(next)}.</p> : null}
      {watch.expected_min && watch.moments_min.length === 0 && watch.state !== "there" ? (
        <p>
          Expected at <b>{at(watch.expected_min[1] ?? 0)}</b>
          <span className="text-soft">
            {" "}
            ({at(watch.expected_min[0] ?? 0)} to {at(watch.expected_min[2] ?? 0)})
          </span>
        </p>
      ) : null}
      {mayMake && watch.reads.length > 0 ? (
        <div className="flex flex-wrap gap-2.5">
          <Button size="bench" onClick={onRead}>
            Read it
          </Button>
          {watch.changes ? (
            <Button size="bench" onClick={onStop}>
              Stop here
            </Button>
          ) : null}
        </div>
      ) : null}
    </div>
  );
}

/** What was read so far, the way to the mark with its fan, and now. */
export function WatchChart({ watch, begun }: Pick<WatchProps, "watch" | "begun">) {
  const elapsed = useElapsed(Date.parse(begun));
  const drawn = drawWatch(watch, elapsed, SIZE);
  return (
    <svg viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} className="min-h-0 w-full flex-1" role="img" aria-label={drawn.says}>
      <path d={drawn.fan} fill="var(--water)" opacity="0.5" />
      <path d={drawn.target} stroke="var(--warn)" strokeWidth="3" strokeDasharray="8 6" />
      <path d={drawn.onward} fill="none" stroke="var(--rim)" strokeWidth="3" strokeDasharray="2 6" />
      <path d={drawn.line} fill="none" stroke="var(--rim)" strokeWidth="4" />
      {drawn.points.map((point) => (
        <circle key={`${point.x}-${point.y}`} cx={point.x} cy={point.y} r="7" fill="var(--ink)" />
      ))}
      <path d={drawn.now} stroke="var(--soft)" strokeWidth="1.5" />
      <text x={drawn.nowX + 6} y="24" className="text-[18px]" fill="var(--soft)">
        now
      </text>
      <text x="10" y={drawn.targetY + 26} className="text-[22px] font-bold" fill="var(--warn)">
        {figure(watch.target)}
        {GAP}
        {watch.unit}
      </text>
    </svg>
  );
}

/** The one figure of a watch: what is left to go, or for cooling what the probe shows. */
export function WatchFigure({ watch }: { watch: Watch }) {
  const probe = watch.kind === "cooling";
  return (
    <div className="flex items-end gap-6">
      <span className="font-head text-[clamp(72px,16vw,150px)] leading-[0.9] font-extrabold">{figure(watch.figure, 0)}</span>
      <span className="pb-2 text-[26px] leading-tight text-soft">
        {probe ? (
          <>
            °C when
            <br />
            last read
          </>
        ) : (
          <>
            grams
            <br />
            {watch.state === "past" ? "past it" : "to go"}
          </>
        )}
      </span>
    </div>
  );
}

/** Minutes since a moment, told anew every second. */
function useElapsed(from: number): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  return Math.max(0, (now - from) / 60_000);
}

/** Rings once for each state that calls; what it rings for stands on the screen too. */
function useBell(calls: boolean, state: string) {
  const rung = useRef("");
  useEffect(() => {
    if (!calls || rung.current === state) return;
    rung.current = state;
    ring();
  }, [calls, state]);
}
