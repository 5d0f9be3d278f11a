/** A makeup as it is typed, and as it is sent: what is left empty is left out, and what cannot be read is told at its place. */

import { typed } from "../../../parts/numbers";

export const WAYS = [
  { value: "label", label: "by its label" },
  { value: "reading", label: "by readings of its juice" },
  { value: "substance", label: "by substance" },
  { value: "parts", label: "by its parts" },
] as const;
export type Way = (typeof WAYS)[number]["value"];
export const PER = ["100 g", "100 mL"] as const;

export interface Row {
  name: string;
  amount: string;
}
export interface Makeup {
  by: Way;
  source: string;
  per: (typeof PER)[number];
  /** Figures by name, of a label and of readings. */
  figures: Readonly<Record<string, string>>;
  substances: readonly Row[];
  sugars: readonly Row[];
  acids: readonly Row[];
  parts: readonly (Row & { makeup: Makeup })[];
  /** What is not typed here and stays as it was, as long as it is known the way it was. */
  rest: Readonly<Record<string, unknown>>;
  was: Way;
}

interface Asked {
  name: string;
  label: string;
  unit: string;
}
const grams = (name: string, label: string): Asked => ({ name, label, unit: "g" });
/** What a label may declare, and what readings say, in the order in which they are asked. */
export const ASKED: Readonly<Record<"label" | "reading", readonly Asked[]>> = {
  label: [
    grams("carbohydrate_g", "Carbohydrate"),
    grams("sugars_g", "of which sugars"),
    grams("fat_g", "Fat"),
    grams("protein_g", "Protein"),
    grams("fibre_g", "Fibre"),
    grams("salt_g", "Salt"),
    grams("acid_g", "Acid, as citric"),
    { name: "abv", label: "Alcohol", unit: "% vol" },
  ],
  reading: [
    { name: "brix_reading", label: "Refractometer", unit: "°Bx" },
    { name: "acid_g_100ml", label: "Acid, as citric", unit: "g/100 mL" },
    { name: "ph", label: "pH, if a meter read it", unit: "" },
    { name: "potassium_mg_100g", label: "Potassium, if known", unit: "mg/100 g" },
    { name: "pectin_g_100g", label: "Pectin, if known", unit: "g/100 g" },
    { name: "other_solids_share", label: "Other solids, as a share of all", unit: "" },
  ],
};

export const EMPTY: Makeup = {
  by: "label",
  source: "",
  per: "100 g",
  figures: {},
  substances: [],
  sugars: [],
  acids: [],
  parts: [],
  rest: {},
  was: "label",
};

type Amount = number | { value: number; low: number; high: number };

/** The end of a range has no more figures than anybody means. */
const rough = (value: number) => Number(value.toPrecision(4));

/** An amount as text: “12”, “12 ± 1”, “12 (10 to 15)”. */
export function amountText(amount: unknown): string {
  if (typeof amount === "number") return String(amount);
  if (typeof amount !== "object" || amount === null) return "";
  const { value, low, high } = amount as Record<"value" | "low" | "high", number>;
  if (low === value && high === value) return String(value);
  const [below, above] = [rough(value - low), rough(high - value)];
  return below === above ? `${value} ± ${above}` : `${value} (${rough(low)} to ${rough(high)})`;
}

/** Without the tail of a binary fraction: 8.2 − 0.3 is 7.9. */
const exact = (value: number) => Number(value.toPrecision(12));

/** What was typed as an amount; null where it cannot be read. */
export function amountTyped(text: string): Amount | null {
  const around = text.split(/±|\+\/?-/);
  if (around.length === 2) {
    const [value, half] = around.map((part) => typed(part));
    return value == null || half == null || half < 0 ? null : { value, low: Math.max(0, exact(value - half)), high: exact(value + half) };
  }
  const between = /^([^(]+)\((.+?)(?:to|–|-)(.+)\)$/.exec(text.trim());
  if (between) {
    const [value, low, high] = between.slice(1).map((part) => typed(part));
    return value == null || low == null || high == null ? null : { value, low, high };
  }
  return typed(text);
}

/** A share of parts is typed in per cent. */
const percent = (text: string): number | null => {
  const value = typed(text);
  return value === null ? null : value / 100;
};

const rowsOf = (data: unknown): Row[] =>
  Object.entries((data ?? {}) as Record<string, unknown>).map(([name, amount]) => ({ name, amount: amountText(amount) }));

const sharesOf = (data: unknown): Row[] =>
  Object.entries((data ?? {}) as Record<string, number>).map(([name, share]) => ({
    name,
    amount: String(Number((share * 100).toPrecision(6))),
  }));

const TYPED = ["by", "source", "per", "g_per_100g", "sugar_split", "acid_split", "parts"];

/** A makeup of the open form as it is typed. */
export function makeupTyped(data: unknown): Makeup {
  const made = (data ?? {}) as Record<string, unknown>;
  const by = WAYS.some(({ value }) => value === made.by) ? (made.by as Way) : "label";
  const asked = by === "label" || by === "reading" ? ASKED[by].map(({ name }) => name) : [];
  return {
    by,
    source: String(made.source ?? ""),
    per: made.per === "100 mL" ? "100 mL" : "100 g",
    figures: Object.fromEntries(asked.map((name) => [name, amountText(made[name])])),
    substances: rowsOf(made.g_per_100g),
    sugars: sharesOf(made.sugar_split),
    acids: sharesOf(made.acid_split),
    parts: Object.entries((made.parts ?? {}) as Record<string, Record<string, unknown>>).map(([name, part]) => ({
      name,
      amount: part.share === undefined ? "" : partShare(part.share),
      makeup: makeupTyped(part.makeup),
    })),
    rest: Object.fromEntries(Object.entries(made).filter(([name]) => !TYPED.includes(name) && !asked.includes(name))),
    was: by,
  };
}

const partShare = (share: unknown): string => {
  const value = typeof share === "number" ? share : (share as { value: number }).value;
  return String(Number((value * 100).toPrecision(6)));
};

/** Sent and faults: the open form of a makeup, and what cannot be read, by place. */
export function makeupSent(made: Makeup, where = "makeup"): { sent: Record<string, unknown>; faults: Record<string, string> } {
  const faults: Record<string, string> = {};
  const read = (text: string, at: string, by: (text: string) => unknown): unknown => {
    const value = by(text);
    if (value === null) faults[at] = "Write figures, such as 12 or 12 ± 1.";
    return value;
  };
  const filled = (rows: readonly Row[], at: string, by: (text: string) => unknown): Record<string, unknown> =>
    Object.fromEntries(
      rows.filter(({ name, amount }) => name && amount.trim()).map(({ name, amount }) => [name, read(amount, `${at}/${name}`, by)]),
    );
  const split = (rows: readonly Row[], name: string) => {
    const shares = filled(rows, `${where}/${name}`, percent);
    return Object.keys(shares).length ? { [name]: shares } : {};
  };
  const common = { by: made.by, ...(made.source.trim() ? { source: made.source.trim() } : {}) };
  if (made.by === "substance")
    return { sent: { ...common, g_per_100g: filled(made.substances, `${where}/g_per_100g`, amountTyped) }, faults };
  if (made.by === "parts") {
    const names = made.parts.map(({ name }) => name.trim());
    const parts = made.parts.map(({ name, amount, makeup }, n) => {
      const key = name.trim();
      const at = `${where}/parts/${key}`;
      if (!key) faults[`${where}/parts`] = "A part has no name yet.";
      else if (names.indexOf(key) < n) faults[`${where}/parts`] = `Two parts are called “${key}”.`;
      const inside = makeupSent(makeup, `${at}/makeup`);
      Object.assign(faults, inside.faults);
      return [key, { ...(amount.trim() ? { share: read(amount, `${at}/share`, percent) } : {}), makeup: inside.sent }];
    });
    return { sent: { ...common, parts: Object.fromEntries(parts) }, faults };
  }
  const figures = ASKED[made.by].flatMap(({ name }) => {
    const text = made.figures[name]?.trim();
    return text ? [[name, read(text, `${where}/${name}`, amountTyped)]] : [];
  });
  return {
    sent: {
      ...(made.was === made.by ? made.rest : {}),
      ...common,
      ...(made.by === "label" ? { per: made.per } : {}),
      ...Object.fromEntries(figures),
      ...split(made.sugars, "sugar_split"),
      ...split(made.acids, "acid_split"),
    },
    faults,
  };
}
