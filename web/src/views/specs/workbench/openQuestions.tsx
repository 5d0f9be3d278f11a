import { useMutation, useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useMemo } from "react";
import { client, type Schemas, type SpecFile, unwrap } from "../../../api/client";
import { fromHereOr } from "../../../sync/core";
import { useShelf } from "../shelf";
import type { DraftHandle } from "./useDraft";

interface OpenQuestions {
  questions: readonly Schemas["OpenQuestion"][];
  busy: boolean;
  answer: (position: number, answer: number) => void;
}

const NONE: OpenQuestions = { questions: [], busy: false, answer: () => undefined };
const Questions = createContext<OpenQuestions>(NONE);

/** The open questions of the draft on the workbench, with what each answer would make of it. */
export const useOpenQuestions = (): OpenQuestions => useContext(Questions);

export interface OpenQuestionsProps {
  body: SpecFile;
  edit: DraftHandle["edit"];
  children: ReactNode;
}

/** Asks for the effects of the answers while a draft has open questions, and takes an answer into the draft. */
export function OpenQuestionsProvider({ body, edit, children }: OpenQuestionsProps) {
  const any = (body.doubts ?? []).length > 0;
  const asked = useQuery({
    queryKey: ["questions", body],
    queryFn: () => fromHereOr(() => unwrap(client.POST("/api/questions", { body: { spec: body } })), "questions", body),
    enabled: any,
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const take = useMutation({
    mutationFn: ([position, answer]: [number, number]) =>
      fromHereOr(
        () => unwrap(client.POST("/api/answered", { body: { spec: body, position, answer } })),
        "answered",
        body,
        position,
        answer,
      ),
    onSuccess: (found) => edit(() => found.spec),
  });
  const { mutate, isPending } = take;
  const shelf = useShelf();
  const value = useMemo<OpenQuestions>(
    () => ({
      questions: any ? (asked.data ?? []) : [],
      busy: isPending || asked.isPlaceholderData,
      answer: (position, answer) => {
        const question = asked.data?.find((item) => item.position === position);
        shelf.answered(question?.code ?? "", question?.answers[answer]?.word ?? "");
        mutate([position, answer]);
      },
    }),
    [any, asked.data, asked.isPlaceholderData, isPending, mutate, shelf.answered],
  );
  return <Questions.Provider value={value}>{children}</Questions.Provider>;
}
