/** The small river of a sum: what goes into one vessel, side by side, each as wide as it is heavy, and none too thin to see. */

export interface Poured {
  name: string;
  amount: number;
}

export interface Stream extends Poured {
  x: number;
  width: number;
}

/** Streams over `width`, `gap` apart; the thinnest is `least` wide and the rest give it room. */
export function pour<P extends Poured>(parts: readonly P[], width: number, gap = 3, least = 10): (P & Stream)[] {
  const shown = parts.filter((part) => part.amount > 0);
  const room = width - gap * Math.max(0, shown.length - 1);
  const total = shown.reduce((sum, part) => sum + part.amount, 0);
  const thin = shown.filter((part) => (part.amount / total) * room < least);
  const thick = total - thin.reduce((sum, part) => sum + part.amount, 0);
  const left = room - thin.length * least;
  let x = 0;
  return shown.map((part) => {
    const wide = thin.includes(part) ? least : (part.amount / thick) * left;
    const stream = { ...part, x, width: wide };
    x += wide + gap;
    return stream;
  });
}
