/** What is asked when the bottles are full, whether it is answered, and what the finish records. */

import type { Schemas } from "../../../api/client";
import { figure, GAP, typed } from "../../../parts/numbers";
import type { EventBody } from "../../../sync/event";
import { type Fated, fateBody, fateOf, isAnswered, outside } from "./fates";

type State = Schemas["RunResult"];

/** What is typed into the sheet. */
export interface Finish {
  volume: string;
  /** Where the rest is, where it is asked. */
  rest: string;
  place: string;
  signed: boolean;
  filled: readonly number[];
  fates: Readonly<Record<string, Fated>>;
}

type Judged = Pick<State, "asked_at_finish" | "deviations" | "off_spec" | "expected_ml"> & {
  evaluation: Pick<State["evaluation"], "leftovers" | "final">;
};

/** Everything that is left over and asked about. */
export const leftOver = (state: Judged) =>
  state.asked_at_finish.flatMap((asked) =>
    (state.evaluation.leftovers ?? []).filter((item) => item.key === asked.key).map((item) => ({ item, asked })),
  );

export interface FinishState {
  value: number | null;
  fault: string | undefined;
  /** Below (−1) or above (1) what may be without a question. */
  off: -1 | 0 | 1;
  offWords: string;
  /** What went otherwise than the spec says and was told. */
  odd: State["deviations"];
  mustSign: boolean;
  ready: boolean;
}

/** Whether a finish can be recorded, and what has to be said before. A rehearsal is asked nothing. */
export function finishState(state: Judged, given: Finish, rehearsal: boolean): FinishState {
  const value = typed(given.volume);
  const expected = state.evaluation.final?.volume_ml.value ?? 0;
  const off = rehearsal ? 0 : outside(value, state.expected_ml);
  const answered =
    (off === 0 || given.rest.trim() !== "") &&
    leftOver(state).every(({ item, asked }) => isAnswered(item, fateOf(item, asked, given.fates)));
  const mustSign = state.off_spec !== "";
  return {
    value,
    fault: value === null ? "Write figures, such as 1430." : undefined,
    off,
    offWords: off
      ? `${figure(Math.abs((value ?? 0) - expected), 0)}${GAP}mL ${off < 0 ? "less" : "more"} than the ${figure(expected, 0)}${GAP}mL that were worked out.`
      : "",
    odd: state.deviations.filter((item) => !item.quiet),
    mustSign,
    ready: rehearsal || (answered && (!mustSign || given.signed)),
  };
}

/** What the finish records; null while the volume is no figure. */
export function finishBody(state: Judged, given: Finish, rehearsal: boolean): EventBody<"finished"> | null {
  const { value, off } = finishState(state, given, rehearsal);
  if (value === null) return null;
  return {
    volume_ml: value,
    place: given.place,
    signed: given.signed,
    by_products: leftOver(state).map(({ item, asked }) => fateBody(item, asked, fateOf(item, asked, given.fates))),
    containers: [...given.filled],
    ...(off ? { rest: given.rest.trim() } : {}),
  };
}
