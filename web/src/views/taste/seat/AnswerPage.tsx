import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import type { Answer } from "../../../sync/seat";
import { Frame } from "./Frame";
import { Glasses } from "./Glasses";
import { LikingLine } from "./LikingLine";
import { Marks } from "./Marks";
import { Ranking } from "./Ranking";

type Seat = Schemas["SeatOut"];
type Page = Schemas["SheetPageOut"];

interface AnswerPageProps {
  seat: Seat;
  page: Page;
  waiting: number;
  refused: string;
  onNext: (answer: Answer) => void;
}

const JUST_RIGHT = "And what is it like?";

/** One page of a taster's sheet. Nothing is marked beforehand, and all of it can be changed until Next. */
export function AnswerPage({ seat, page, waiting, refused, onNext }: AnswerPageProps) {
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [word, setWord] = useState("");
  const place = seat.pages.findIndex((item) => item.turn === page.turn);
  const next = seat.pages[place + 1];
  const isOneGlass = page.codes.length === 1;
  const hint = page.asks === "attributes" ? "Mark each. The middle is just right." : seat.hint;
  return (
    <Frame left={isOneGlass ? `Glass ${page.codes[0]}` : `${page.codes.length} glasses`} right={`${place + 1} of ${seat.pages.length}`}>
      <div className="tray flex flex-1 flex-col gap-3 p-4">
        <h1 className="text-[28px]">{page.asks === "attributes" ? JUST_RIGHT : seat.task}</h1>
        <p className="text-[16px] text-soft">{hint}</p>
        <Asked seat={seat} page={page} answer={answer} onAnswer={setAnswer} />
        {page.asks === "attributes" ? null : (
          <Field label="A word, if you have one" maxLength={200} value={word} onChange={setWord} className="mt-auto pt-3" />
        )}
      </div>
      {refused ? (
        <p role="alert" className="text-center font-semibold text-warn">
          {refused}
        </p>
      ) : null}
      <p className="text-center text-[15px] text-soft" aria-live="polite">
        {waiting ? `${waiting} kept on this phone until the site can be reached. ` : ""}
        {next && next.codes[0] !== page.codes[0] ? "Water, then the next. " : ""}You can change it until Next.
      </p>
      <Button
        look="main"
        size="bench"
        className="!min-h-16 !text-[18px]"
        disabled={answer === null}
        onClick={() => answer && onNext({ ...answer, ...(word.trim() ? { word } : {}) })}
      >
        {nextWords(page, next)}
      </Button>
    </Frame>
  );
}

function nextWords(page: Page, next: Page | undefined): string {
  if (!next) return "Next: done";
  if (next.codes[0] === page.codes[0]) return `Next: more of ${page.codes[0]}`;
  return next.codes.length === 1 ? `Next: glass ${next.codes[0]}` : "Next: the next glasses";
}

interface AskedProps {
  seat: Seat;
  page: Page;
  answer: Answer | null;
  onAnswer: (answer: Answer | null) => void;
}

function Asked({ seat, page, answer, onAnswer }: AskedProps) {
  switch (page.asks) {
    case "liking":
      return <LikingLine value={answer?.score ?? null} onChange={(score) => onAnswer({ score })} />;
    case "attributes":
      return <Marks attributes={seat.attributes} onChange={(marks) => onAnswer(marks && { marks })} />;
    case "ranking":
      return <Ranking codes={page.codes} onChange={(order) => onAnswer(order && { order })} />;
    case "same":
      return (
        <>
          <p className="figures text-[24px] font-bold">{page.codes.join("  ·  ")}</p>
          <Glasses
            label={seat.task}
            options={[
              { value: "same", name: "The same" },
              { value: "different", name: "Different" },
            ]}
            value={answer ? (answer.same ? "same" : "different") : null}
            onChange={(said) => onAnswer({ same: said === "same" })}
          />
        </>
      );
    default:
      return (
        <Glasses
          label={seat.task}
          options={page.codes.map((code) => ({ value: code, name: code }))}
          value={answer?.code ?? null}
          onChange={(code) => onAnswer({ code })}
        />
      );
  }
}
