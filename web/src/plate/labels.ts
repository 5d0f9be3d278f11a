/** Where the labels of spots stand: beside their spot, at the first of four sides where they lie on no spot and no label before them. */

export interface Placed {
  x: number;
  y: number;
  anchor: "start" | "end" | "middle";
}

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

const LETTER = 7.6;
const HIGH = 15;
const ROUND = 8;
const SIDES = [
  { dx: 11, dy: 5, anchor: "start" },
  { dx: -11, dy: 5, anchor: "end" },
  { dx: 0, dy: -12, anchor: "middle" },
  { dx: 0, dy: 23, anchor: "middle" },
  { dx: 13, dy: 19, anchor: "start" },
  { dx: -13, dy: 19, anchor: "end" },
  { dx: 13, dy: -10, anchor: "start" },
  { dx: -13, dy: -10, anchor: "end" },
] as const;

const apart = (one: Box, other: Box) =>
  one.right <= other.left || other.right <= one.left || one.bottom <= other.top || other.bottom <= one.top;

function box(at: Placed, label: string): Box {
  const wide = label.length * LETTER;
  const left = at.anchor === "start" ? at.x : at.anchor === "end" ? at.x - wide : at.x - wide / 2;
  return { left, right: left + wide, top: at.y - HIGH + 3, bottom: at.y + 3 };
}

/** The places of labels in a picture so wide, in the order of the spots; null where none is free. */
export function labelPlaces(spots: readonly { x: number; y: number; label: string }[], width: number): (Placed | null)[] {
  const taken: Box[] = spots.map(({ x, y }) => ({ left: x - ROUND, right: x + ROUND, top: y - ROUND, bottom: y + ROUND }));
  return spots.map(({ x, y, label }, n) => {
    if (!label) return null;
    for (const { dx, dy, anchor } of SIDES) {
      const at: Placed = { x: x + dx, y: y + dy, anchor };
      const mine = box(at, label);
      if (mine.left < 0 || mine.right > width) continue;
      if (taken.every((other, m) => m === n || apart(mine, other))) {
        taken.push(mine);
        return at;
      }
    }
    return null;
  });
}
