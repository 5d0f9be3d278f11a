/** Events of a batch in words: as a person would tell another what was done, and as they would call it to take it back. */

import { amount, figure, GAP, named } from "../../../parts/numbers";
import { type EventBody, type EventKind, type Happening, thatCount } from "../../../sync/event";
import type { Run } from "../../../sync/runDesk";

/** How the things of a batch are called; undefined where this device does not know one yet. */
interface Names {
  line: (id: string) => string | undefined;
  step: (id: string) => string | undefined;
}
type Words<Kinds extends EventKind> = { readonly [K in Kinds]: (body: EventBody<K>, names: Names) => string };
type Recorded = Exclude<EventKind, "started">;
type Reversible = Exclude<Recorded, "finished" | "undone">;

const namesIn = (run: Run): Names => ({
  line: (id) => run.state.steps.flatMap((step) => step.lines).find((item) => item.id === id)?.name,
  step: (id) => run.state.steps.find((item) => item.id === id)?.title,
});

const some = (line: string | undefined) => line ?? "something";
const quoted = (step: string | undefined) => `“${step ?? "a step"}”`;

const DONE: Words<Recorded> = {
  weighed: (body, names) => `${amount(body.mass_g, "g")} of ${some(names.line(body.line))}`,
  went_on: (body, names) => `${amount(body.mass_g, "g")} of ${some(names.line(body.line))} in, then another crate`,
  measured: (body, names) => `${amount(body.volume_ml, "mL")} of ${some(names.line(body.line))}`,
  counted: (body, names) => `${body.count} of ${some(names.line(body.line))}`,
  dosed: (body, names) => `${body.drops} drops of ${some(names.line(body.line))}`,
  taken_from: (body, names) => `where ${some(names.line(body.line))} comes from`,
  wrong_jar: (body, names) => `the wrong jar for ${some(names.line(body.line))}`,
  read: (body) => (body.value == null ? "a titration" : `a reading, ${body.value}${withVessel(body)}`),
  tasted: (body) => `tasted: ${body.verdict}`,
  sampled: (body) => `a sample of ${amount(body.mass_g, "g")}`,
  spilled: (body) => `${amount(body.mass_g, "g")} spilled`,
  step_begun: (body, names) => `began ${quoted(names.step(body.step))}`,
  step_done: (body, names) => `${quoted(names.step(body.step))} done`,
  step_skipped: (body, names) => `${quoted(names.step(body.step))} skipped`,
  step_changed: (body, names) => `${quoted(names.step(body.step))} done otherwise`,
  step_first: (body, names) => `${quoted(names.step(body.step))} first`,
  step_added: () => "an extra step",
  repair_taken: () => "the repair taken",
  repair_put_off: () => "the repair put off",
  repair_refused: () => "left as it is",
  undone: () => "took the last thing back",
  noted: (body) => `a note: ${body.text}`,
  handed_over: (body) => `handed over to ${body.to}`,
  finished: () => "bottled",
};

const withVessel = ({ tare_g }: EventBody<"read">) => (tare_g == null ? "" : " with its vessel");
const low = (line: string | undefined, otherwise: string) => line?.toLowerCase() ?? otherwise;

const TAKEN_BACK: Words<Reversible> = {
  weighed: (body, names) => `${figure(body.mass_g)}${GAP}g ${low(names.line(body.line), "")}`,
  counted: (body, names) => `${body.count} ${low(names.line(body.line), "")}`,
  measured: (body, names) => `${figure(body.volume_ml)}${GAP}mL ${low(names.line(body.line), "")}`,
  dosed: (body, names) => `${body.drops} drops of ${low(names.line(body.line), "")}`,
  went_on: (body, names) => `going on with another crate of ${low(names.line(body.line), "it")}`,
  taken_from: (body, names) => `where ${low(names.line(body.line), "that line")} comes from`,
  wrong_jar: (body, names) => `the other jar for ${low(names.line(body.line), "that line")}`,
  read: (body) => (body.value == null ? "the titration" : `the reading of ${named(body.property, body.value)}${withVessel(body)}`),
  tasted: () => "what was tasted",
  sampled: (body) => `the sample of ${figure(body.mass_g)}${GAP}g`,
  spilled: (body) => `the spill of ${figure(body.mass_g)}${GAP}g`,
  step_begun: (body, names) => `the start of ${quoted(names.step(body.step))}`,
  step_done: (body, names) => `the end of ${quoted(names.step(body.step))}`,
  step_skipped: (body, names) => `the skipping of ${quoted(names.step(body.step))}`,
  step_changed: (body, names) => `how ${quoted(names.step(body.step))} was done`,
  step_first: (body, names) => `bringing ${quoted(names.step(body.step))} forward`,
  step_added: () => "the extra step",
  repair_taken: () => "the repair that was taken",
  repair_put_off: () => "putting the repair off",
  repair_refused: () => "leaving it as it is",
  noted: (body) => `the note “${body.text}”`,
  handed_over: (body) => `handing over to ${body.to}`,
};

function wordsOf<K extends EventKind>(words: Words<K>, kind: K, body: EventBody<K>, run: Run): string {
  return words[kind](body, namesIn(run));
}

/** What is recorded, as one says it: it stands in lists of what waits, and is signed with the event. */
export function happeningWords(run: Run, [kind, body]: Happening): string {
  const words = kind === "started" ? "started" : wordsOf(DONE, kind, body as EventBody<Recorded>, run);
  return `${words} (${run.code})`.slice(0, 200);
}

/** The newest thing that can be taken back, in words; null where there is none. */
export function lastReversible(run: Run): { id: string; words: string } | null {
  const event = thatCount(run).findLast((item) => item.kind in TAKEN_BACK);
  if (!event) return null;
  return { id: event.id, words: wordsOf(TAKEN_BACK, event.kind as Reversible, event.body as EventBody<Reversible>, run) };
}
