/** The plate's geometry: sugar across, acid up, rays of equal sugar to acid from the corner. */

import { type ScaleLinear, scaleLinear } from "d3-scale";

export interface PlateSpot {
  sugar: number;
  acid: number;
}

type Axis = ScaleLinear<number, number>;

/** Where sugar and acid [g/100 mL] stand in the picture. What lies outside is held at the edge. */
export interface PlateScale {
  x: Axis;
  y: Axis;
}

const ROOM = { left: 34, right: 12, top: 38, bottom: 46 };
/** About so many marks stand along an axis. */
const MARKS = 3;

/** A scale that holds every spot with room to drag. */
export function plateScale(spots: readonly PlateSpot[], size: { width: number; height: number }): PlateScale {
  const sugar = Math.max(20, ...spots.map((spot) => spot.sugar)) * 1.2;
  const acid = Math.max(1, ...spots.map((spot) => spot.acid)) * 1.25;
  return {
    x: scaleLinear([0, sugar], [ROOM.left, size.width - ROOM.right])
      .nice(MARKS)
      .clamp(true),
    y: scaleLinear([0, acid], [size.height - ROOM.bottom, ROOM.top])
      .nice(MARKS)
      .clamp(true),
  };
}

/** The highest value of an axis. */
export const most = (axis: Axis) => axis.domain()[1] ?? 0;

/** Length of a span of values along an axis, in the picture. */
export const along = (axis: Axis, span: number) => Math.abs(axis(span) - axis(0));

/** The marks of an axis, without its corner. */
export const marks = (axis: Axis) => axis.ticks(MARKS).filter((mark) => mark > 0);

/** The spot under a point, held inside the plate. */
export const fromPoint = ({ x, y }: PlateScale, atX: number, atY: number): PlateSpot => ({ sugar: x.invert(atX), acid: y.invert(atY) });

/** Where a ray of `ratio` grams of sugar to one of acid leaves the plate. */
export function rayEnd(scale: PlateScale, ratio: number): PlateSpot {
  const acid = Math.min(most(scale.y), most(scale.x) / ratio);
  return { sugar: acid * ratio, acid };
}

export interface Ray {
  ratio: number;
  x: number;
  y: number;
  /** Where its label stands; null where it would lie over the one before. */
  label: { x: number; y: number; anchor: "start" | "middle" } | null;
}

const LABEL = { width: 38, height: 16 };

/** The rays with their ends and labels, the steepest first: a label that would lie over another is left out, its line stays. */
export function rays(scale: PlateScale, ratios: readonly number[], width: number): Ray[] {
  const placed: { x: number; y: number }[] = [];
  return ratios.map((ratio) => {
    const end = rayEnd(scale, ratio);
    const [x, y] = [scale.x(end.sugar), scale.y(end.acid)];
    const at = { x: Math.min(x, width - 34), y: Math.max(14, y - 4) };
    const over = placed.some((other) => Math.abs(other.x - at.x) < LABEL.width && Math.abs(other.y - at.y) < LABEL.height);
    if (over) return { ratio, x, y, label: null };
    placed.push(at);
    return { ratio, x, y, label: { ...at, anchor: x > width - 60 ? "start" : "middle" } };
  });
}
