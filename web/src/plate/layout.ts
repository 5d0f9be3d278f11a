/** The plate's geometry: sugar across, acid up, rays of equal sugar to acid from the corner. */

export interface PlateSpot {
  sugar: number;
  acid: number;
}

export interface PlateScale {
  left: number;
  bottom: number;
  width: number;
  height: number;
  sugarMost: number;
  acidMost: number;
}

const STEPS = [0.5, 1, 2, 4, 5, 10, 20, 25, 50];

const roundUp = (value: number, step: number) => Math.ceil(value / step - 1e-9) * step;

/** A scale that holds every spot with room to drag. */
export function plateScale(spots: readonly PlateSpot[], size: { width: number; height: number }): PlateScale {
  const sugar = Math.max(20, ...spots.map((spot) => spot.sugar)) * 1.2;
  const acid = Math.max(1, ...spots.map((spot) => spot.acid)) * 1.25;
  return {
    left: 34,
    bottom: size.height - 46,
    width: size.width - 46,
    height: size.height - 84,
    sugarMost: roundUp(sugar, sugar > 40 ? 20 : 10),
    acidMost: roundUp(acid, acid > 4 ? 2 : acid > 2 ? 1 : 0.5),
  };
}

export const toX = (scale: PlateScale, sugar: number) => scale.left + (sugar / scale.sugarMost) * scale.width;
export const toY = (scale: PlateScale, acid: number) => scale.bottom - (acid / scale.acidMost) * scale.height;

/** The spot under a point, held inside the plate. */
export function fromPoint(scale: PlateScale, x: number, y: number): PlateSpot {
  const sugar = ((x - scale.left) / scale.width) * scale.sugarMost;
  const acid = ((scale.bottom - y) / scale.height) * scale.acidMost;
  return { sugar: Math.min(scale.sugarMost, Math.max(0, sugar)), acid: Math.min(scale.acidMost, Math.max(0, acid)) };
}

/** About four marks along an axis. */
export function marks(most: number): number[] {
  const step = STEPS.find((candidate) => most / candidate <= 4.5) ?? most;
  return Array.from({ length: Math.floor(most / step + 1e-9) }, (_, i) => (i + 1) * step);
}

/** Where a ray of `ratio` grams of sugar to one of acid leaves the plate. */
export function rayEnd(scale: PlateScale, ratio: number): PlateSpot {
  const acid = Math.min(scale.acidMost, scale.sugarMost / ratio);
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
    const [x, y] = [toX(scale, end.sugar), toY(scale, end.acid)];
    const at = { x: Math.min(x, width - 34), y: Math.max(14, y - 4) };
    const over = placed.some((other) => Math.abs(other.x - at.x) < LABEL.width && Math.abs(other.y - at.y) < LABEL.height);
    if (over) return { ratio, x, y, label: null };
    placed.push(at);
    return { ratio, x, y, label: { ...at, anchor: x > width - 60 ? "start" : "middle" } };
  });
}
