/** The form of a panel: what is typed, and the plan that it says. */

import type { Schemas } from "../../../api/client";
import { AIMS, TASTING } from "../../../api/rules";
import { figure, typed } from "../../../parts/numbers";

export type Aim = Schemas["PanelOut"]["aim"];
type Sample = Schemas["SampleIn"];

/** A sample with the name that it is shown by. */
export interface ChosenSample {
  name: string;
  about: string;
  body: Sample;
}

export interface PlanText {
  aim: Aim;
  /** Empty while the one that Ulsek proposes will do. */
  method: string;
  /** Empty while the proposed words will do. */
  question: string;
  samples: ChosenSample[];
  tasters: string;
  rounds: string;
  /** Guests in a hundred, or points. */
  line: string;
  glass_ml: string;
  dark: boolean;
  sequential: boolean;
  attributes: string[];
  drink: string;
  equal: Schemas["ServingIn"]["equal"];
  pour_ml: string;
  drink_ml: string;
  drink_abv: string;
  pourer: string;
}

const HUNDRED = 100;
const usualLine = (aim: Aim) => AIMS.find((item) => item.aim === aim)?.line ?? 0;
const isShare = (aim: Aim) => aim !== "standing";

/** A line as it is typed: 0.2 of guests is “20”. */
const lineText = (aim: Aim, line: number) => figure(isShare(aim) ? line * HUNDRED : line, isShare(aim) ? 0 : 1);

export const BLANK: PlanText = {
  aim: "difference",
  method: "",
  question: "",
  samples: [],
  tasters: String(TASTING.tasters),
  rounds: String(TASTING.rounds),
  line: lineText("difference", usualLine("difference")),
  glass_ml: String(TASTING.glass_ml),
  dark: false,
  sequential: false,
  attributes: [],
  drink: "",
  equal: "sugar",
  pour_ml: String(TASTING.pour_ml),
  drink_ml: "100",
  drink_abv: "0",
  pourer: "",
};

/** The form after another question was chosen: what depends on it begins anew. */
export const asking = (form: PlanText, aim: Aim): PlanText => ({
  ...form,
  aim,
  method: "",
  line: lineText(aim, usualLine(aim)),
  rounds: aim === "difference" ? String(TASTING.rounds) : "1",
  attributes: aim === "standing" ? form.attributes : [],
  sequential: false,
});

/** The question in words, as long as nobody has written another. */
export function proposedQuestion({ aim, samples }: PlanText): string {
  const [first, second] = samples.map((sample) => sample.name);
  if (!first || !second) return "";
  if (aim === "difference") return `Can anybody tell ${second} from ${first}?`;
  const rest = samples.length > 2 ? `${samples.length} glasses` : `${first} or ${second}`;
  return aim === "preference" ? `Which is liked: ${rest}?` : `How do they stand: ${rest}?`;
}

const whole = (text: string) => Math.round(typed(text) ?? 0);

function designOf(form: PlanText, method: string): Schemas["DesignIn"] {
  const line = typed(form.line);
  return {
    method,
    tasters: whole(form.tasters),
    rounds: whole(form.rounds),
    line: line === null ? null : isShare(form.aim) ? line / HUNDRED : line,
    glass_ml: typed(form.glass_ml) ?? 0,
    dark_glasses: form.dark,
    attributes: form.attributes,
    is_sequential: form.sequential,
  };
}

const servingOf = (form: PlanText): Schemas["ServingIn"] => ({
  drink: form.drink,
  equal: form.equal,
  pour_ml: typed(form.pour_ml) ?? TASTING.pour_ml,
  drink_ml: typed(form.drink_ml) ?? 0,
  drink_abv: typed(form.drink_abv) ?? 0,
});

export const planOf = (form: PlanText, method: string): Schemas["PanelIn"] => ({
  question: form.question || proposedQuestion(form),
  design: designOf(form, method),
  samples: form.samples.map((sample) => sample.body),
  serving: servingOf(form),
  poured_by: form.pourer ? Number(form.pourer) : null,
});

export const lookAhead = (form: PlanText): Schemas["BeforehandIn"] => ({
  aim: form.aim,
  design: designOf(form, form.method),
  samples: form.samples.map((sample) => sample.body),
  serving: servingOf(form),
  count: Math.max(2, form.samples.length),
});

const bodyOf = (sample: Schemas["SampleOut"]): Sample => ({
  kind: sample.kind,
  lot: sample.lot,
  spec: sample.spec,
  version: sample.version,
  standard: sample.standard,
  name: sample.kind === "bought" ? sample.name : "",
  sugar_g_100ml: sample.kind === "bought" ? sample.sugar_g_100ml : null,
  acid_g_100ml: sample.kind === "bought" ? sample.acid_g_100ml : null,
  abv: sample.kind === "bought" ? sample.abv : null,
  allergens: sample.kind === "bought" && sample.allergens_known ? sample.allergens : null,
});

/** What is in a sample, in one line. */
export function contentsWords(sample: { sugar_g_100ml: number | null; acid_g_100ml: number | null; abv: number | null }): string {
  const parts = [
    sample.sugar_g_100ml === null ? "" : `sugar ${figure(sample.sugar_g_100ml, 1)}`,
    sample.acid_g_100ml === null ? "" : `acid ${figure(sample.acid_g_100ml, 2)}`,
    sample.abv ? `${figure(sample.abv, 1)} % vol` : "",
  ];
  return parts.filter(Boolean).join(" · ");
}

/** The form of a panel that is planned already. */
export function formOf(panel: Schemas["PanelOut"]): PlanText {
  const { design, serving } = panel;
  return {
    ...BLANK,
    aim: panel.aim,
    method: panel.method,
    question: panel.question,
    samples: panel.samples.map((sample) => ({ name: sample.name, about: contentsWords(sample), body: bodyOf(sample) })),
    tasters: String(design.tasters),
    rounds: String(design.rounds),
    line: lineText(panel.aim, design.line),
    glass_ml: String(design.glass_ml),
    dark: design.dark_glasses,
    sequential: design.is_sequential,
    attributes: [...design.attributes],
    drink: serving.drink,
    equal: serving.equal,
    pour_ml: String(serving.pour_ml),
    drink_ml: String(serving.drink_ml),
    drink_abv: String(serving.drink_abv),
    pourer: panel.poured_by === null ? "" : String(panel.poured_by),
  };
}
