/** Changes to a draft's body: each takes the body and gives the next one, so that undo can go back. */

import type { Schemas, SpecAmount, SpecFile, SpecLine, SpecOptions, SpecStep } from "../../../api/client";
import { BOTTLING } from "../../../api/rules";

export type Verb = Schemas["VerbSheet"];

/** A verb's usual figures, as a step begins with them; priors stay open until a house knows better. */
function usual(verb: Verb): Record<string, unknown> {
  const given = verb.params.filter((param) => param.kind !== "range" && param.usual !== null && param.usual !== "");
  return Object.fromEntries(given.map((param) => [param.name, param.usual]));
}

export const steps = (body: SpecFile): readonly SpecStep[] => body.steps ?? [];
export const allLines = (body: SpecFile): SpecLine[] => steps(body).flatMap((step) => step.lines ?? []);

function freeId(taken: readonly string[], prefix: string): string {
  for (let n = taken.length + 1; ; n += 1) {
    if (!taken.includes(`${prefix}${n}`)) return `${prefix}${n}`;
  }
}

export const changeStep =
  (id: string, changes: Partial<SpecStep>) =>
  (body: SpecFile): SpecFile => ({
    ...body,
    steps: steps(body).map((step) => (step.id === id ? { ...step, ...changes } : step)),
  });

/** A step of another verb keeps its place, its words, where it goes and, where that verb takes them, its lines. */
export const changeVerb =
  (id: string, verb: Verb) =>
  (body: SpecFile): SpecFile => ({
    ...body,
    steps: steps(body).map((step) => {
      if (step.id !== id) return step;
      const { vessel, note, check, lines, into, by_product } = step;
      const kept = Object.fromEntries(Object.entries({ vessel, note, check, into, by_product }).filter(([, value]) => value));
      return { id, verb: verb.verb, ...kept, ...usual(verb), ...(verb.takes_lines && lines ? { lines } : {}) } as SpecStep;
    }),
  });

/** A new step after `after`, or before the bottle when that is the last. */
export function addStep(body: SpecFile, after: string | null): { body: SpecFile; id: string } {
  const all = [...steps(body)];
  const id = freeId(
    all.map((step) => step.id),
    "s",
  );
  const vessel = all[0]?.vessel ?? body.vessels?.[0]?.id;
  const made: SpecStep = { id, verb: "combine", lines: [], ...(vessel ? { vessel } : {}) };
  const chosen = all.findIndex((step) => step.id === after);
  const bottles = (step: SpecStep | undefined) => step !== undefined && BOTTLING.includes(step.verb);
  const end = bottles(all.at(-1)) ? all.length - 1 : all.length;
  const at = chosen < 0 || bottles(all[chosen]) ? end : chosen + 1;
  all.splice(at, 0, made);
  return { body: { ...body, steps: all }, id };
}

/** The steps that count: those of alternatives that are not chosen wait aside. `counted` holds the ids of the steps that the core counts. */
export const shownSteps = (body: SpecFile, counted: Readonly<Record<string, unknown>>): readonly SpecStep[] =>
  steps(body).filter((step) => !step.only || step.id in counted);

/** A step that came typed, with its lines under ids of their own, after `after` or before the bottle. */
export function insertStep(body: SpecFile, after: string | null, typed: Partial<SpecStep>): { body: SpecFile; id: string } {
  const made = addStep(body, after);
  const taken = allLines(body).map((line) => line.id);
  const lines = (typed.lines ?? []).map((line) => ({ ...line, id: taken.includes(line.id) ? freeId(taken, `${line.id}-`) : line.id }));
  const next = changeStep(made.id, { ...typed, id: made.id, lines } as Partial<SpecStep>)(made.body);
  const first = lines[0];
  return { body: body.driver || !first ? next : { ...next, driver: first.id }, id: made.id };
}

/** Takes a doubtful reading out: the `entry` of the file that its remark is about. */
export const settleDoubt =
  (entry: NonNullable<Schemas["Remark"]["entry"]>) =>
  (body: SpecFile): SpecFile => {
    const isIt = (doubt: NonNullable<SpecFile["doubts"]>[number]) =>
      doubt.at === entry.at && doubt.text === entry.text && doubt.question === entry.question;
    const doubts = (body.doubts ?? []).filter((doubt) => !isIt(doubt));
    const { doubts: _settled, ...rest } = body;
    return doubts.length ? { ...rest, doubts } : rest;
  };

/** Questions about an amount that nobody wrote. */
const AMOUNTS_ASKED = ["imprecise", "count_of_fruit", "count_of_pieces", "missing_amount", "no_piece_weight", "to_taste"];

const isAssumed = (line: SpecLine) => line.amount?.kind === "fixed" && line.amount.assumed === true;

/** The lines whose assumed amounts may be taken as they stand: all but those that stop publishing. */
export const mayStand = (body: SpecFile, stops: readonly string[]): string[] =>
  allLines(body)
    .filter((line) => isAssumed(line) && !stops.includes(line.id))
    .map((line) => line.id);

/** Takes assumed amounts as they stand: they are written now, and nothing is asked about them any more. */
export const takeAsTheyStand =
  (lines: readonly string[]) =>
  (body: SpecFile): SpecFile => {
    const taken = (line: SpecLine): SpecLine => {
      if (!lines.includes(line.id) || line.amount?.kind !== "fixed") return line;
      const { assumed: _taken, ...amount } = line.amount;
      return { ...line, amount };
    };
    const { doubts, ...rest } = body;
    const left = (doubts ?? []).filter((doubt) => !(lines.includes(doubt.at) && AMOUNTS_ASKED.includes(doubt.code ?? "")));
    const made = { ...rest, steps: steps(body).map((step) => (step.lines ? { ...step, lines: step.lines.map(taken) } : step)) };
    return left.length ? { ...made, doubts: left } : made;
  };

/** Splits a step of several lines in two: the last line goes on in a step of its own. */
export const splitStep =
  (id: string) =>
  (body: SpecFile): SpecFile => {
    const step = steps(body).find((item) => item.id === id);
    const last = step?.lines?.at(-1);
    if (!step?.lines || step.lines.length < 2 || !last) return body;
    const made = freeId(
      steps(body).map((item) => item.id),
      "s",
    );
    const halves = [
      { ...step, lines: step.lines.slice(0, -1) },
      { ...step, id: made, lines: [last], note: "" },
    ];
    return { ...body, steps: steps(body).flatMap((item) => (item.id === id ? halves : [item])) };
  };

/** Joins a step with the next one of the same verb and vessel: its lines go in together. */
export const joinNext =
  (id: string) =>
  (body: SpecFile): SpecFile => {
    const at = steps(body).findIndex((step) => step.id === id);
    const [step, next] = [steps(body)[at], steps(body)[at + 1]];
    if (!mayJoin(step, next)) return body;
    const note = [step?.note, next?.note].filter(Boolean).join("; ");
    const joined = { ...step, lines: [...(step?.lines ?? []), ...(next?.lines ?? [])], ...(note ? { note } : {}) } as SpecStep;
    return { ...body, steps: steps(body).flatMap((item, i) => (i === at ? [joined] : i === at + 1 ? [] : [item])) };
  };

export const mayJoin = (step?: SpecStep, next?: SpecStep): boolean =>
  step !== undefined && next !== undefined && step.verb === next.verb && step.vessel === next.vessel && step.only === next.only;

/** Gives a step an alternative: a group of two ways, this one chosen, the other a copy to be changed. */
export const addAlternative =
  (id: string, name: string) =>
  (body: SpecFile): SpecFile => {
    const step = steps(body).find((item) => item.id === id);
    if (!step || step.only) return body;
    const group = freeId(
      (body.options ?? []).map((item) => item.id),
      "option",
    );
    const taken = allLines(body).map((line) => line.id);
    const copyId = freeId(
      steps(body).map((item) => item.id),
      "s",
    );
    const lines = step.lines?.map((line) => {
      const made = freeId(taken, `${line.id}-`);
      taken.push(made);
      return { ...line, id: made };
    });
    const copy = { ...step, id: copyId, only: `${group}/other`, ...(lines ? { lines } : {}) } as SpecStep;
    return {
      ...body,
      options: [
        ...(body.options ?? []),
        {
          id: group,
          name,
          chosen: "first",
          choices: [
            { id: "first", name: "as it is" },
            { id: "other", name: "the other way" },
          ],
        },
      ],
      steps: steps(body).flatMap((item) => (item.id === id ? [{ ...item, only: `${group}/first` }, copy] : [item])),
    };
  };

/** Changes one option group. */
export const changeOption =
  (id: string, change: (group: SpecOptions) => SpecOptions) =>
  (body: SpecFile): SpecFile => ({ ...body, options: (body.options ?? []).map((group) => (group.id === id ? change(group) : group)) });

/** Takes a group away: what is chosen stays as plain steps, the rest goes. `counted` holds the ids of the steps that the core counts. */
export const settleOption =
  (id: string, counted: Readonly<Record<string, unknown>>) =>
  (body: SpecFile): SpecFile => {
    const kept = shownSteps(body, counted).map((step) => step.id);
    return {
      ...body,
      options: (body.options ?? []).filter((group) => group.id !== id),
      steps: steps(body)
        .filter((step) => !step.only?.startsWith(`${id}/`) || kept.includes(step.id))
        .map((step) => {
          if (!step.only?.startsWith(`${id}/`)) return step;
          const { only: _gone, ...plain } = step;
          return plain as SpecStep;
        }),
    };
  };

export const removeStep =
  (id: string) =>
  (body: SpecFile): SpecFile => ({ ...body, steps: steps(body).filter((step) => step.id !== id) });

export const moveStep =
  (id: string, by: -1 | 1) =>
  (body: SpecFile): SpecFile => {
    const all = [...steps(body)];
    const from = all.findIndex((step) => step.id === id);
    const step = all[from];
    if (!step || from + by < 0 || from + by >= all.length) return body;
    all.splice(from, 1);
    all.splice(from + by, 0, step);
    return { ...body, steps: all };
  };

/** A line of `material`, measured against the batch's driving line when there is one; the first line sets the batch. */
export const addLine =
  (stepId: string, material: string) =>
  (body: SpecFile): SpecFile => {
    const taken = allLines(body).map((line) => line.id);
    const short = material.split("_").at(-1) === "juice" ? "juice" : material;
    const id = taken.includes(short) ? freeId(taken, `${short}-`) : short;
    const driver = body.driver;
    const amount = driver
      ? ({ kind: "ratio", to: { line: driver }, basis: "weight", ratio: "" } as unknown as SpecAmount)
      : ({ kind: "fixed", written: "" } as SpecAmount);
    const next = changeStep(stepId, {
      lines: [...(steps(body).find((step) => step.id === stepId)?.lines ?? []), { id, material, amount }],
    })(body);
    return driver ? next : { ...next, driver: id };
  };

export const changeLine =
  (id: string, changes: Partial<SpecLine>) =>
  (body: SpecFile): SpecFile => ({
    ...body,
    // Steps that don't hold the line stay the very same, so that they need not be drawn again.
    steps: steps(body).map((step) =>
      step.lines?.some((line) => line.id === id)
        ? { ...step, lines: step.lines.map((line) => (line.id === id ? { ...line, ...changes } : line)) }
        : step,
    ),
  });

export const removeLine =
  (id: string) =>
  (body: SpecFile): SpecFile => {
    const next = {
      ...body,
      steps: steps(body).map((step) => (step.lines ? { ...step, lines: step.lines.filter((line) => line.id !== id) } : step)),
    };
    if (body.driver !== id) return next;
    const { driver: _gone, ...rest } = next;
    return rest;
  };

/** Sets, changes or takes away the goal of one property. */
export const setGoal =
  (property: "brix" | "acid_g_100ml", value: string, tolerance: number) =>
  (body: SpecFile): SpecFile => {
    const others = (body.goals ?? []).filter((goal) => goal.property !== property);
    return { ...body, goals: value.trim() ? [...others, { property, value, tolerance }] : others };
  };

/** Says which drink it is for, once both its dose and its size are there; takes it away again where one is not. */
export const setServedIn =
  ({ dose_ml, drink_ml }: { dose_ml: string; drink_ml: string }, alcoholic: boolean | undefined) =>
  (body: SpecFile): SpecFile => {
    const { served_in: _said, ...rest } = body;
    if (!dose_ml.trim() || !drink_ml.trim()) return rest;
    return { ...rest, served_in: { dose_ml, drink_ml, ...(alcoholic === undefined ? {} : { alcoholic }) } };
  };

/** What a vessel holds, or where its fill line is; an emptied figure is taken away. */
export const setVessel =
  (id: string, name: "capacity_ml" | "fill_line_ml", value: string) =>
  (body: SpecFile): SpecFile => ({
    ...body,
    vessels: (body.vessels ?? []).map((vessel) => {
      if (vessel.id !== id) return vessel;
      const { [name]: _before, ...rest } = vessel;
      return value.trim() ? { ...rest, [name]: value } : rest;
    }),
  });
