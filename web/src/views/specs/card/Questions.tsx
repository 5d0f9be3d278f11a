import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Notice, Trouble } from "../../../parts/Notice";
import { Sheet } from "../../../parts/Sheet";

interface QuestionsProps {
  spec: string;
  number: number;
  questions: readonly Schemas["Question"][];
  open: boolean;
  onClose: () => void;
}

/** Three questions out of the spec before somebody's first make of it; a wrong answer says why and may be given again. */
export function Questions({ spec, number, questions, open, onClose }: QuestionsProps) {
  const queries = useQueryClient();
  const [given, setGiven] = useState<Record<string, number>>({});
  const answer = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/specs/{spec_id}/versions/{number}/answers", {
          params: { path: { spec_id: spec, number } },
          body: { answers: given },
        }),
      ),
    onSuccess: (told) => {
      if (!told.passed) return;
      void queries.invalidateQueries({ queryKey: ask.reading(spec, number).queryKey });
      onClose();
    },
  });
  return (
    <Sheet open={open} onClose={onClose} title="Before your first make" about="Look at the card as often as you like.">
      <form
        className="grid gap-5"
        onSubmit={(event) => {
          event.preventDefault();
          answer.mutate();
        }}
      >
        {questions.map((question) => {
          const wrong = answer.data?.wrong.find((item) => item.id === question.id);
          return (
            <fieldset key={question.id} className="grid gap-1">
              <legend className="mb-1 font-bold">{question.text}</legend>
              {question.answers.map((text, place) => (
                <label key={text} className="flex min-h-11 items-center gap-3 rounded-lg px-2 hover:bg-pick">
                  <input
                    type="radio"
                    name={question.id}
                    className="size-5 accent-rim"
                    checked={given[question.id] === place}
                    onChange={() => setGiven({ ...given, [question.id]: place })}
                  />
                  {text}
                </label>
              ))}
              {wrong ? <Notice severity="check">Not that. {wrong.because}</Notice> : null}
            </fieldset>
          );
        })}
        <Trouble error={answer.error} />
        <Button look="main" type="submit" disabled={answer.isPending || Object.keys(given).length < questions.length}>
          Answer
        </Button>
      </form>
    </Sheet>
  );
}
