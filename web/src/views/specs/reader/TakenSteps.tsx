import { useMemo } from "react";
import type { Schemas, SpecFile } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { figure, GAP } from "../../../parts/numbers";
import { River } from "../../../river/River";
import { flowing } from "../flowing";
import { QuestionCard } from "../QuestionCard";
import { useRows } from "../workbench/useRows";

/** Where the steps stand on the page. */
export const TAKEN = "taken";

export interface TakenStepsProps {
  body: SpecFile;
  read: Schemas["ReadDraft"];
  chosen: string;
  busy: boolean;
  /** The words that are being given to a step; empty while none are. */
  giving: string;
  onGive: (step: string) => void;
  onChoose: (at: string) => void;
  onAnswer: (position: number, answer: number) => void;
  onSettle: (position: number) => void;
}

/** What was taken from a text: its steps with their amounts, the open questions at their places, and the river beside them. */
export function TakenSteps({ body, read, chosen, busy, giving, onGive, onChoose, onAnswer, onSettle }: TakenStepsProps) {
  const { workbench, questions } = read;
  const steps = body.steps ?? [];
  const { list, rows } = useRows(steps.length);
  const flows = useMemo(() => new Map(workbench.steps.map((flow) => [flow.id, flow])), [workbench.steps]);
  const names = useMemo(
    () =>
      Object.fromEntries(
        workbench.steps.flatMap((step) =>
          step.added.map((added) => [added.line, workbench.words.names[added.material]?.split(",")[0] ?? ""]),
        ),
      ),
    [workbench],
  );
  const stream = useMemo(() => workbench.steps.map((step) => flowing(step, body.vessels ?? [])), [workbench.steps, body.vessels]);
  const banks = useMemo(() => rows.slice(0, workbench.steps.length), [rows, workbench.steps.length]);
  const places = new Set(steps.flatMap((step) => [step.id, ...(step.lines ?? []).map((line) => line.id)]));
  const homeless = questions.filter((question) => !places.has(question.at));
  const card = (question: Schemas["OpenQuestion"]) => (
    <QuestionCard
      key={`${question.position}-${question.code}`}
      question={question}
      busy={busy}
      onAnswer={(answer) => onAnswer(question.position, answer)}
      onSettle={() => onSettle(question.position)}
    />
  );
  return (
    <section id={TAKEN} className="tray min-w-0 overflow-hidden p-4" aria-label="What Ulsek takes from it">
      <h2 className="mb-2 text-[20px]">What Ulsek takes from it</h2>
      {giving ? (
        <p role="status" className="mb-2 text-[15px]">
          Which step does <q>{giving.trim()}</q> belong to?
        </p>
      ) : null}
      <div className="relative">
        <ol ref={list} className="relative">
          {steps.map((step, at) => {
            const mass = new Map((flows.get(step.id)?.added ?? []).map((added) => [added.line, added.mass_g]));
            const lines = step.lines ?? [];
            const here = [step.id, ...lines.map((line) => line.id)];
            const picked = here.includes(chosen);
            const other = (line: (typeof lines)[number]) => instead(body, line.only);
            const amounts = lines.map((line) =>
              other(line) ? null : (
                <Grams key={line.id} mass={mass.get(line.id)} hollow={line.amount?.kind === "fixed" && line.amount.assumed === true} />
              ),
            );
            return (
              <li
                key={step.id}
                id={`taken-${step.id}`}
                className={`grid grid-cols-1 border-b border-line py-2.5 md:grid-cols-[1fr_130px] ${picked ? "bg-pick" : ""}`}
              >
                <div className="min-w-0">
                  <button
                    type="button"
                    aria-pressed={picked}
                    onClick={() => onChoose(picked ? "" : step.id)}
                    className="grid min-h-9 w-full grid-cols-[30px_1fr_auto] items-baseline gap-x-2 text-left"
                  >
                    <span className="figures text-[17px] font-bold text-soft" aria-hidden="true">
                      {at + 1}
                    </span>
                    <span className="text-[16px] leading-snug font-bold">{workbench.words.steps[step.id] ?? step.verb}</span>
                    {lines.length === 1 ? amounts[0] : null}
                  </button>
                  {lines.length > 1 ? (
                    <ul className="pl-[38px]">
                      {lines.map((line, n) => (
                        <li key={line.id} className="flex items-baseline justify-between gap-3 text-[15px]">
                          <span className={`min-w-0 ${other(line) ? "text-soft" : ""}`}>
                            {other(line) ? `or ${other(line)}` : (workbench.words.names[line.material] ?? line.material)}
                          </span>
                          {amounts[n]}
                        </li>
                      ))}
                    </ul>
                  ) : null}
                  {giving ? (
                    <Button className="md:ml-[38px]" disabled={busy} onClick={() => onGive(step.id)}>
                      It belongs here
                    </Button>
                  ) : null}
                  <div className="md:pl-[38px]">{questions.filter((question) => here.includes(question.at)).map(card)}</div>
                </div>
              </li>
            );
          })}
        </ol>
        <div className="pointer-events-none absolute inset-y-0 right-0 hidden w-[130px] md:block">
          <River steps={stream} rows={banks} names={names} title={`What is in the vessel over ${steps.length} steps`} />
        </div>
      </div>
      {homeless.map(card)}
    </section>
  );
}

/** The name of an alternative that is not chosen; empty for a line that counts. */
function instead(body: SpecFile, only: string | undefined): string {
  const [group, choice] = (only ?? "").split("/");
  const options = body.options?.find((item) => item.id === group);
  return options && options.chosen !== choice ? (options.choices.find((item) => item.id === choice)?.name ?? "") : "";
}

/** A half-range is shown from a twentieth of the amount on. */
const WORTH_SAYING = 20;

/** An amount in grams with its half-range; hollow where nobody wrote it, an empty place where nobody may assume it. */
function Grams({ mass, hollow }: { mass: Schemas["LineMass"]["mass_g"] | undefined; hollow: boolean }) {
  if (!mass) return <span className="shrink-0 text-[14px] font-semibold text-warn">how much?</span>;
  const half = (mass.high - mass.low) / 2;
  return (
    <span className="figures shrink-0 text-right">
      <b className={hollow ? "hollow" : ""} title={hollow ? "Nobody wrote it: the usual amount" : undefined}>
        {figure(mass.value)}
        {GAP}g
      </b>
      {half * WORTH_SAYING >= mass.value && figure(half) !== figure(0) ? (
        <span className="ml-1 text-[14px] text-soft">
          ±{GAP}
          {figure(half)}
        </span>
      ) : null}
    </span>
  );
}
