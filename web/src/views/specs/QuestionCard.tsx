import type { Schemas } from "../../api/client";
import { effectSaid, type Now } from "./effects";

export interface QuestionCardProps {
  question: Schemas["OpenQuestion"];
  /** The product as it is, to tell what an answer changes. */
  now: Now;
  busy: boolean;
  onAnswer: (answer: number) => void;
  /** Leaves the reading as it stands. */
  onSettle: () => void;
}

/** An open question about a reading, with its answers as buttons, each with what it does to the product. */
export function QuestionCard({ question, now, busy, onAnswer, onSettle }: QuestionCardProps) {
  return (
    <fieldset
      className="mt-2 min-w-0 rounded-r-xl border-l-4 border-sugar bg-quiet p-3 text-[15px]"
      aria-label={`Question about ${question.text}`}
    >
      <p className="mb-2">
        <b>“{question.text}”</b> {question.question}
      </p>
      <div className="flex flex-wrap gap-2">
        {question.answers.map((answer, at) => {
          const effect = effectSaid(answer, now);
          return (
            <button
              key={answer.word}
              type="button"
              disabled={busy}
              onClick={() => onAnswer(at)}
              className="act min-h-11 rounded-full border border-rim bg-enamel px-4 text-[15px] text-rim disabled:text-soft"
            >
              <b>{answer.word}</b>
              {effect ? <span className="figures ml-2 text-soft">{effect}</span> : null}
            </button>
          );
        })}
        <button
          type="button"
          disabled={busy}
          onClick={onSettle}
          aria-label={`As it stands: ${question.text}`}
          className="act min-h-11 rounded-full border border-line bg-enamel px-4 text-[15px] font-semibold text-soft"
        >
          as it stands
        </button>
      </div>
    </fieldset>
  );
}
