import type { Schemas } from "../../api/client";

export interface QuestionCardProps {
  question: Schemas["OpenQuestion"];
  busy: boolean;
  onAnswer: (answer: number) => void;
  /** Leaves the reading as it stands. */
  onSettle: () => void;
}

/** An open question about a reading, with its answers as buttons, each with what it does to the product. */
export function QuestionCard({ question, busy, onAnswer, onSettle }: QuestionCardProps) {
  const answers = question.answers.map((answer) => ({ word: answer.word, effect: answer.then }));
  return (
    <QuestionFrame
      text={question.text}
      question={question.question}
      answers={answers}
      busy={busy}
      onAnswer={(word) => onAnswer(question.answers.findIndex((answer) => answer.word === word))}
      onSettle={onSettle}
    />
  );
}

export interface QuestionFrameProps {
  /** The words that are asked about. */
  text: string;
  question: string;
  /** Who asks it, where several do. */
  of?: string;
  answers: readonly { word: string; effect: string }[];
  busy: boolean;
  onAnswer: (word: string) => void;
  onSettle: () => void;
}

/** A question with its answers as buttons; the last leaves the reading as it stands. */
export function QuestionFrame({ text, question, of = "", answers, busy, onAnswer, onSettle }: QuestionFrameProps) {
  return (
    <fieldset className="mt-2 min-w-0 rounded-r-xl border-l-4 border-sugar bg-quiet p-3 text-[15px]" aria-label={`Question about ${text}`}>
      <p className="mb-2">
        <b>“{text}”</b> {question}
        {of ? <span className="block text-[14px] text-soft">{of}</span> : null}
      </p>
      <div className="flex flex-wrap gap-2">
        {answers.map(({ word, effect }) => (
          <button
            key={word}
            type="button"
            disabled={busy}
            onClick={() => onAnswer(word)}
            className="act min-h-11 rounded-full border border-rim bg-enamel px-4 text-[15px] text-rim disabled:text-soft"
          >
            <b>{word}</b>
            {effect ? <span className="figures ml-2 text-soft">{effect}</span> : null}
          </button>
        ))}
        <button
          type="button"
          disabled={busy}
          onClick={onSettle}
          aria-label={`As it stands: ${text}`}
          className="act min-h-11 rounded-full border border-line bg-enamel px-4 text-[15px] font-semibold text-soft"
        >
          as it stands
        </button>
      </div>
    </fieldset>
  );
}
