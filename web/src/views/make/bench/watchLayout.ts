/** The geometry of a watch: readings, the way to the target with its fan, and now. No framework, no rule of the job. */

import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { figure } from "../../../parts/numbers";

export interface WatchShape {
  start: number;
  target: number;
  points: readonly { minutes: number; value: number }[];
  expected_min: readonly number[] | null;
}

export interface WatchDrawing {
  points: { x: number; y: number }[];
  /** What was read, and how it goes on to the mark. */
  line: string;
  onward: string;
  /** Between the earliest and the latest that it may be there. */
  fan: string;
  target: string;
  targetY: number;
  now: string;
  nowX: number;
  says: string;
}

const ROOM = { left: 12, right: 12, top: 34, bottom: 40 };
const n = (value: number) => value.toFixed(1);

/** Where everything stands, `elapsed` minutes after it began. */
export function drawWatch(watch: WatchShape, elapsed: number, size: { width: number; height: number }): WatchDrawing {
  const [soonest = 0, best = 0, latest = 0] = watch.expected_min ?? [];
  const until = Math.max(elapsed, latest, best, ...watch.points.map((point) => point.minutes), 1) * 1.04;
  const values = [watch.start, watch.target, ...watch.points.map((point) => point.value)];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const x = scaleLinear([0, until], [ROOM.left, size.width - ROOM.right]);
  const y = scaleLinear([low, high > low ? high : low + 1], [size.height - ROOM.bottom, ROOM.top]);
  const path = [{ minutes: 0, value: watch.start }, ...watch.points];
  const last = path.at(-1) ?? { minutes: 0, value: watch.start };
  const there = y(watch.target);
  const onward = watch.expected_min && best > last.minutes;
  const drawn = line<{ minutes: number; value: number }>(
    (point) => x(point.minutes),
    (point) => y(point.value),
  ).digits(1);
  const mark = (minutes: number) => ({ minutes, value: watch.target });
  return {
    points: watch.points.map((point) => ({ x: x(point.minutes), y: y(point.value) })),
    line: drawn(path) ?? "",
    onward: onward ? (drawn([last, mark(best)]) ?? "") : "",
    fan: onward ? `${drawn([last, mark(soonest), mark(latest)])}Z` : "",
    target: `M${ROOM.left} ${n(there)}H${size.width - ROOM.right}`,
    targetY: there,
    nowX: x(elapsed),
    now: `M${n(x(elapsed))} ${ROOM.top - 10}V${size.height - ROOM.bottom}`,
    says: `${watch.points.length} readings on the way from ${figure(watch.start, 0)} to ${figure(watch.target, 0)}`,
  };
}
