// Written by bin/types from src/ulsek/core/base/figures.py; change that.

/** Every figure by its key: its name in a sentence, its short name in a table, its unit, its decimals (undefined: by size), from where it is shown. */
export const FIGURES = {
  mass_g: { name: "weight", short: "weight", unit: "g", decimals: undefined, shownFrom: 0.0 },
  volume_ml: { name: "volume", short: "yield", unit: "mL", decimals: undefined, shownFrom: 0.0 },
  density_g_ml: { name: "density", short: "density", unit: "g/mL", decimals: 3, shownFrom: 0.0 },
  brix: { name: "dissolved solids", short: "solids", unit: "°Bx", decimals: 1, shownFrom: 0.05 },
  brix_reading: { name: "the refractometer's reading", short: "the refractometer's reading", unit: "°Bx", decimals: 1, shownFrom: 0.0 },
  sugar_g_100ml: { name: "sugars", short: "sugar", unit: "g/100 mL", decimals: 1, shownFrom: 0.0 },
  acid_g_100ml: { name: "titratable acid", short: "acid", unit: "g/100 mL", decimals: 2, shownFrom: 0.05 },
  abv: { name: "alcohol", short: "alcohol", unit: "% vol", decimals: 1, shownFrom: 0.05 },
  ph: { name: "pH", short: "pH", unit: "", decimals: 2, shownFrom: 0.0 },
  water_activity: { name: "water activity", short: "water activity", unit: "", decimals: 3, shownFrom: 0.0 },
  freezing_c: { name: "freezing point", short: "freezing point", unit: "°C", decimals: 1, shownFrom: 0.0 },
  boiling_c: { name: "boiling point", short: "boiling point", unit: "°C", decimals: 1, shownFrom: 0.0 },
  viscosity_mpa_s: { name: "viscosity", short: "viscosity", unit: "mPa·s", decimals: undefined, shownFrom: 0.0 },
  sweetness_g_100ml: { name: "sweetness, as sugar", short: "sweetness, as sugar", unit: "g/100 mL", decimals: 1, shownFrom: 0.0 },
  acid_g_100g: { name: "titratable acid by weight", short: "titratable acid by weight", unit: "g/100 g", decimals: 2, shownFrom: 0.0 },
  abw: { name: "alcohol by weight", short: "alcohol by weight", unit: "% w/w", decimals: 1, shownFrom: 0.0 },
  carbonation_g_l: { name: "carbon dioxide", short: "carbon dioxide", unit: "g/L", decimals: 1, shownFrom: 0.0 },
  temperature_c: { name: "temperature", short: "temperature", unit: "°C", decimals: 1, shownFrom: 0.0 },
  naoh_ml: { name: "base from the burette", short: "base from the burette", unit: "mL", decimals: 2, shownFrom: 0.0 },
  quinine_mg_l: { name: "quinine", short: "quinine", unit: "mg/L", decimals: 2, shownFrom: 0.0 },
  added_sugar_percent: { name: "added sugar", short: "added sugar", unit: "%", decimals: 2, shownFrom: 0.0 },
} as const;

export type FigureKey = keyof typeof FIGURES;

/** What an amount may bring a vessel to. */
export const TARGETS = [
  { value: "brix", label: "°Bx" },
  { value: "acid_g_100ml", label: "acid, g/100 mL" },
  { value: "sugar_g_100ml", label: "sugar, g/100 mL" },
  { value: "abv", label: "% vol" },
  { value: "volume_ml", label: "the mL line" },
  { value: "mass_g", label: "grams in all" },
] as const;

/** The goals that a spec is asked for, with the tolerance of one for which none is given. */
export const GOALS = [
  { property: "brix", label: "Goal °Bx", tolerance: 0.5 },
  { property: "acid_g_100ml", label: "Goal acid", tolerance: 0.05 },
] as const;

/** What may be read at the bench, in the order in which it is offered. */
export const READINGS = [
  { property: "brix_reading", label: "Refractometer", unit: "°Bx", about: "Clear, stirred, at 20 °C." },
  { property: "acid_g_100ml", label: "Titration", unit: "g/100 mL", about: "As citric, at the first pink that stays." },
  { property: "mass_g", label: "Weight", unit: "g", about: "Without the vessel." },
  { property: "temperature_c", label: "Thermometer", unit: "°C", about: "In the middle." },
  { property: "ph", label: "pH meter", unit: "", about: "At 20 to 25 °C, rinsed." },
  { property: "volume_ml", label: "Volume line", unit: "mL", about: "At eye height." },
] as const;
