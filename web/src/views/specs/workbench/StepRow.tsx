import { memo, type ReactNode } from "react";
import type { SpecFile } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Notice, type Severity } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import { QuestionCard } from "../QuestionCard";
import { settleDoubt } from "./body";
import { useOpenQuestions } from "./openQuestions";
import type { Remark } from "./remarks";
import { type AmountView, remarksShown, type StepView } from "./stepViews";

export interface StepRowProps {
  view: StepView;
  number: number;
  selected: boolean;
  mayEdit: boolean;
  onSelect: (step: string) => void;
  onWorking: (step: string, name: string) => void;
  edit: (change: (body: SpecFile) => SpecFile) => void;
  /** The fields of the selected step. */
  children?: ReactNode;
}

/** One step beside the river: what to do and how much; its fields when it is the selected one. */
export const StepRow = memo(function StepRow({ view, number, selected, mayEdit, onSelect, onWorking, edit, children }: StepRowProps) {
  return (
    <div className={`grid grid-cols-[34px_1fr] gap-x-3 px-4 py-3 ${selected ? "bg-pick" : ""}`}>
      <span className={`figures pt-0.5 text-right text-[20px] font-bold ${selected ? "text-rim" : "text-soft"}`} aria-hidden="true">
        {number}
      </span>
      <div className="min-w-0">
        <div className="flex items-start justify-between gap-3">
          <button
            type="button"
            onClick={() => onSelect(view.id)}
            aria-expanded={selected}
            className="-m-1 min-h-11 flex-1 rounded-lg p-1 text-left"
          >
            <span className="block text-[16px] leading-snug font-bold">{view.title}</span>
            {view.note && !selected ? <span className="block text-[14px] leading-snug text-soft">{view.note}</span> : null}
          </button>
          <div className="grid shrink-0 justify-items-end gap-1">
            {view.amounts.map((amount) => (
              <Amount key={amount.line} amount={amount} onWorking={() => onWorking(view.id, `line:${amount.line}`)} />
            ))}
          </div>
        </div>
        {children}
        {remarksShown(view, selected).map((remark) => (
          <StepRemark key={remark.code + remark.text} remark={remark} {...(mayEdit ? { edit } : {})} />
        ))}
      </div>
    </div>
  );
});

function Amount({ amount, onWorking }: { amount: AmountView; onWorking: () => void }) {
  return (
    <button
      type="button"
      onClick={onWorking}
      className="min-h-11 rounded-md px-1 text-right leading-tight hover:bg-pick"
      aria-label={`${amount.name}: ${figure(amount.grams)} g${amount.assumed ? ", assumed" : ""}. Show the working`}
    >
      <span className={`figures text-[16px] font-bold ${amount.assumed ? "hollow" : ""}`}>
        {figure(amount.grams)}
        {GAP}g
      </span>
      {amount.beside ? <span className="block text-[14px]">{amount.beside}</span> : null}
      <span className="block max-w-[132px] text-[14px] text-soft">{amount.measured}</span>
    </button>
  );
}

function StepRemark({ remark, edit }: { remark: Remark; edit?: StepRowProps["edit"] }) {
  const { entry } = remark;
  const { questions, busy, answer } = useOpenQuestions();
  const question = entry && questions.find((item) => item.at === entry.at && item.text === entry.text && item.question === entry.question);
  if (question && entry && edit) {
    return (
      <QuestionCard
        question={question}
        busy={busy}
        onAnswer={(chosen) => answer(question.position, chosen)}
        onSettle={() => edit(settleDoubt(entry))}
      />
    );
  }
  return (
    <div className="mt-2 flex items-start gap-2">
      <div className="flex-1">
        <Notice severity={remark.severity as Severity}>
          {remark.text} {remark.remedy}
        </Notice>
      </div>
      {entry && edit ? (
        <Button onClick={() => edit(settleDoubt(entry))} aria-label={`Tick off: ${remark.text}`}>
          Settled
        </Button>
      ) : null}
    </div>
  );
}
