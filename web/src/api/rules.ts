// Written by bin/types from src/ulsek/core by src/ulsek/typescript.py; change the rules there.

/** What a form begins with: usual figures of the core, in the unit of their names. */
export const USUAL = {
  drop_ml: 0.05,
  sample_ml: 10.0,
  normality: 0.1,
  taste_percent: 10.0,
  oil_sugar_peel_g: 100.0,
  oil_sugar_ratio: 1.5,
  oil_sugar_hours: 18.0,
  oil_sugar_c: 20.0,
  stretched_ml: 1000.0,
  stretched_times: 4.0,
  stretched_oil_mg_l: 600.0,
  enzyme_c: 45.0,
  fine_scale_g: 0.1,
  stronger_brix: 30.0,
  desk_g: 1000.0,
  fruits_measured: 10,
  want_hours: 4.0,
  have_g: 1000.0,
} as const;

/** What a scale at the bench shows [g]: nothing, something lifted off, an empty vessel. */
export const SCALE = {
  still_g: 0.15,
  lifted_g: 1.0,
  empty_g: 0.5,
} as const;

/** How far a hand moves a batch at a time, by how it is asked for. */
export const STRIDES = {
  volume_ml: 250.0,
  serves: 5.0,
  have_g: 250.0,
  times: 0.5,
} as const;

/** A taster's score. */
export const SCORE = {
  least: 1.0,
  most: 10.0,
} as const;

/** What a panel begins with, and its bounds. */
export const TASTING = {
  tasters: 6,
  rounds: 2,
  glass_ml: 15.0,
  most_samples: 12,
  least_mark: 1,
  most_mark: 5,
  pour_ml: 20.0,
} as const;

/** What a panel is asked for. */
export const AIMS = [
  { aim: "difference", question: "Can anybody tell?", about: "A cheaper, an older or another one in place of the house's own.", line: 0.2 },
  { aim: "preference", question: "Which is liked?", about: "Two or more, and one of them is to stay.", line: 0.65 },
  { aim: "standing", question: "How do they stand?", about: "Scores against a control, and what is just about right.", line: 1.0 },
] as const;

/** What may be just about right, with its two ends. */
export const ATTRIBUTES = [
  { key: "sweet", name: "sweet", little: "not sweet enough", much: "too sweet" },
  { key: "tart", name: "tart", little: "not tart enough", much: "too tart" },
  { key: "bitter", name: "bitter", little: "not bitter enough", much: "too bitter" },
  { key: "body", name: "body", little: "too thin", much: "too thick" },
] as const;

/** Whose cups a house means, with what one holds. */
export const CUPS = [
  { value: "metric", label: "metric cups, 250 mL" },
  { value: "us", label: "US cups, 237 mL" },
  { value: "imperial", label: "imperial cups, 284 mL" },
] as const;

/** What a cut plan may be asked for, with the unit of its amount. */
export const WANTS = [
  { what: "juice", word: "Juice", unit: "mL", mayBeDayOld: true },
  { what: "zest", word: "Zest", unit: "g", mayBeDayOld: false },
  { what: "peel", word: "Peel", unit: "g", mayBeDayOld: false },
  { what: "oil_sugar", word: "Oil-sugar from peel", unit: "g of peel", mayBeDayOld: false },
  { what: "stretched", word: "Stretched juice", unit: "mL in all", mayBeDayOld: true },
  { what: "wheels", word: "Garnish wheels", unit: "wheels", mayBeDayOld: false },
  { what: "whole", word: "Whole fruit", unit: "fruit", mayBeDayOld: false },
  { what: "spec", word: "A batch of a spec", unit: "batches", mayBeDayOld: true },
] as const;

/** Verbs that put the product in its bottles: what is added to a spec goes in before them. */
export const BOTTLING: readonly string[] = ["bottle", "hot_fill", "bottle_ahead"];

/** Grams of sugar to one of acid that the plate draws a ray of. */
export const RAYS: readonly number[] = [8, 12, 18, 30];

/** A titration at a bar, step by step. */
export const TITRATION_STEPS: readonly string[] = [
  "Measure the sample into the flask, and some water with it.",
  "Three drops of the indicator.",
  "Base in, drop by drop at the end, until a pink stays for half a minute (pH 8.2).",
  "Read what went in. Goggles and gloves: base burns."
];

/** Days that stand for no limit from one side. */
export const FOREVER_DAYS = 3650;

/** Places whose law the names of a house may be judged by. */
export const LAW_PLACES: readonly string[] = ["EU", "UK", "US"];

/** What a bottle whose making was not recorded is taken to hold [mL]. */
export const FOUND_ML = 700;
