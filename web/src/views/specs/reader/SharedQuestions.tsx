import { useMutation, useQuery } from "@tanstack/react-query";
import { client, type SpecFile, unwrap } from "../../../api/client";
import { Trouble } from "../../../parts/Notice";
import { QuestionFrame } from "../QuestionCard";
import { useShelf } from "../shelf";
import { inDrafts } from "./many";

export interface SharedQuestionsProps {
  bodies: SpecFile[];
  onBodies: (bodies: SpecFile[]) => void;
}

/** What is open in several drafts, each question once; an answer is taken in all of them. */
export function SharedQuestions({ bodies, onBodies }: SharedQuestionsProps) {
  const asked = useQuery({
    queryKey: ["shared-questions", bodies.map((body) => body.doubts ?? [])],
    queryFn: () => unwrap(client.POST("/api/shared-questions", { body: { specs: bodies } })),
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const answer = useMutation({
    mutationFn: ({ key, answer: chosen }: { key: string; answer: number | null }) =>
      unwrap(client.POST("/api/answered-together", { body: { specs: bodies, key, answer: chosen } })),
    onSuccess: (found) => onBodies(found.map((item) => item.spec)),
  });
  const shelf = useShelf();
  const questions = asked.data ?? [];
  return (
    <section className="tray p-4" aria-label="What is asked">
      <h2 className="text-[20px]">What is asked</h2>
      <p className="mb-2 text-[14px] text-soft" role="status">
        {questions.length === 0
          ? "No question left"
          : `${questions.length} ${questions.length === 1 ? "question" : "questions"}; an answer is taken in every recipe that asks it`}
      </p>
      <Trouble error={asked.error ?? answer.error ?? shelf.error} />
      {questions.map((question) => (
        <QuestionFrame
          key={question.key}
          text={question.text}
          question={question.question}
          of={inDrafts(question.drafts.map((at) => bodies[at]?.name ?? ""))}
          answers={question.answers.map((word) => ({ word, effect: "" }))}
          busy={answer.isPending || asked.isPlaceholderData}
          onAnswer={(word) => {
            shelf.answered(question.key, word);
            answer.mutate({ key: question.key, answer: question.answers.indexOf(word) });
          }}
          onSettle={() => answer.mutate({ key: question.key, answer: null })}
        />
      ))}
    </section>
  );
}
