/** The text of a recipe in pieces, each with what was taken from it. */

import type { Schemas } from "../../../api/client";

export type Phrase = Schemas["TextPhrase"];

/** A piece of the text: the innermost phrase that it belongs to, and the step around it; neither where no step took it. */
export interface Piece {
  start: number;
  text: string;
  phrase: Phrase | null;
  step: string;
}

/** Two words at least: a lone “and” between two steps was not left over. */
const WORDS = /\p{L}{2,}\P{L}+\p{L}{2,}/u;

/** Marks and breaks before the first word. */
const BEFORE_WORDS = /^[^\p{L}\p{N}]+/u;

/** Cuts a text at the ends of its phrases, and what no step took before its first word. The pieces put together are the text. */
export function pieces(text: string, phrases: readonly Phrase[]): Piece[] {
  return between(text, phrases).flatMap((piece) => {
    const marks = isLeft(piece) ? (BEFORE_WORDS.exec(piece.text)?.[0].length ?? 0) : 0;
    if (!marks) return [piece];
    return [
      { ...piece, text: piece.text.slice(0, marks) },
      { ...piece, start: piece.start + marks, text: piece.text.slice(marks) },
    ];
  });
}

function between(text: string, phrases: readonly Phrase[]): Piece[] {
  const cuts = [...new Set([0, text.length, ...phrases.flatMap(({ start, end }) => [start, end])])]
    .filter((cut) => cut >= 0 && cut <= text.length)
    .sort((one, other) => one - other);
  return cuts.slice(0, -1).map((start, at) => {
    const end = cuts[at + 1] ?? text.length;
    const around = phrases.filter((phrase) => phrase.start <= start && phrase.end >= end);
    const inner = around.reduce<Phrase | null>(
      (best, phrase) => (best === null || phrase.end - phrase.start < best.end - best.start ? phrase : best),
      null,
    );
    return { start, text: text.slice(start, end), phrase: inner, step: around.find((phrase) => phrase.kind === "step")?.at ?? "" };
  });
}

/** Whether a piece holds words that nothing was taken from. */
export const isLeft = (piece: Piece): boolean => piece.phrase === null && WORDS.test(piece.text);
