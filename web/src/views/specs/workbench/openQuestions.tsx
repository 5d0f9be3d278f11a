import { useMutation, useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useMemo } from "react";
import { client, type Schemas, type SpecFile, unwrap } from "../../../api/client";
import { fromHereOr } from "../../../sync/core";
import type { Now } from "../effects";
import type { DraftHandle } from "./useDraft";

interface OpenQuestions {
  questions: readonly Schemas["OpenQuestion"][];
  now: Now;
  busy: boolean;
  answer: (position: number, answer: number) => void;
}

const NONE: OpenQuestions = { questions: [], now: { brix: 0, acid: 0, volume: 0 }, busy: false, answer: () => undefined };
const Questions = createContext<OpenQuestions>(NONE);

/** The open questions of the draft on the workbench, with what each answer would make of it. */
export const useOpenQuestions = (): OpenQuestions => useContext(Questions);

export interface OpenQuestionsProps {
  body: SpecFile;
  final: Schemas["FinalResult"] | null;
  edit: DraftHandle["edit"];
  children: ReactNode;
}

/** Asks for the effects of the answers while a draft has open questions, and takes an answer into the draft. */
export function OpenQuestionsProvider({ body, final, edit, children }: OpenQuestionsProps) {
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
    onSuccess: (found) => edit(() => found.spec as unknown as SpecFile),
  });
  const { mutate, isPending } = take;
  const value = useMemo<OpenQuestions>(
    () => ({
      questions: any ? (asked.data ?? []) : [],
      now: { brix: final?.brix.value ?? 0, acid: final?.acid_g_100ml.value ?? 0, volume: final?.volume_ml.value ?? 0 },
      busy: isPending || asked.isPlaceholderData,
      answer: (position, answer) => mutate([position, answer]),
    }),
    [any, asked.data, asked.isPlaceholderData, final, isPending, mutate],
  );
  return <Questions.Provider value={value}>{children}</Questions.Provider>;
}
