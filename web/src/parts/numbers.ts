/**
 * The format of numbers, the same as the core's (`core/base/number_format.py`): `npm run parity` compares both over the parity corpus.
 * Display only: no rule of the job lives here.
 */

import { FIGURES, type FigureKey } from "../api/figures";

export const GAP = "\u00a0";
const MINUS = "\u2212";
const LEAST = 0.005;

/** Decimals that a number is printed with: as given, else none from 100 up, one from 10, two below. */
export function places(value: number, decimals?: number): number {
  const size = Math.abs(value);
  return decimals ?? (size >= 99.95 ? 0 : size >= 9.995 ? 1 : 2);
}

/** A number rounded to the nearest, an exact half away from zero, thousands apart: 1234.5 is "1 235". What is not finite is "–". */
export function figure(value: number, decimals?: number): string {
  if (!Number.isFinite(value)) return "–";
  const [whole = "0", rest] = Math.abs(value).toFixed(places(value, decimals)).split(".");
  const spaced = whole.replace(/\B(?=(\d{3})+$)/g, GAP);
  const printed = rest ? `${spaced}.${rest}` : spaced;
  return value < 0 && /[1-9]/.test(printed) ? MINUS + printed : printed;
}

/** A number and its unit; without decimals, what is there and would print as nothing is "under 0.01". */
export function amount(value: number, unit: string, decimals?: number): string {
  const printed = decimals === undefined && value > 0 && value < LEAST ? "under 0.01" : figure(value, decimals);
  return `${printed} ${unit}`.replaceAll(" ", GAP);
}

/** A value of a figure with its unit: "40.0 °Bx". */
export function withUnit(key: FigureKey, value: number): string {
  const { unit, decimals } = FIGURES[key];
  return unit ? amount(value, unit, decimals) : figure(value, decimals);
}

/** A value of a figure with its unit, or with its name before a pure number: "40.0 °Bx", "pH 2.90". */
export const named = (key: FigureKey, value: number) => (FIGURES[key].unit ? "" : `${FIGURES[key].name} `) + withUnit(key, value);

/** A value of a figure without its unit, where the unit stands elsewhere: "40.0". */
export const withoutUnit = (key: FigureKey, value: number) => figure(value, FIGURES[key].decimals);

/** A typed number in either decimal style; null when it is none yet. */
export function typed(text: string): number | null {
  const plain = text.replace(/[\s\u00a0]/g, "").replace(",", ".");
  return /^-?\d+(\.\d*)?$|^-?\.\d+$/.test(plain) ? Number(plain) : null;
}

/** What is wrong with a text that should be a number: nothing typed at all, or something else than figures. */
export const noNumber = (text: string, example: string, nothing: string): string =>
  text.trim() ? `“${text}” is no number. Write figures, such as ${example}.` : nothing;
