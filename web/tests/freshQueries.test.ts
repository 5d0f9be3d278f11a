import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, it } from "vitest";
import { allButSession, forgetAnswers } from "../src/session/freshQueries";

it("asks again what a screen waits for, forgets what none shows, and leaves the session alone", async () => {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const asked: string[] = [];
  let answers: ((text: string) => void)[] = [];
  const draft = new QueryObserver(queries, {
    queryKey: ["draft", "spec"],
    queryFn: () => {
      asked.push("draft");
      return new Promise<string>((answer) => {
        answers = [...answers, answer];
      });
    },
    staleTime: Number.POSITIVE_INFINITY,
  });
  const stop = draft.subscribe(() => undefined);
  queries.setQueryData(["session"], { person: 7 });
  queries.setQueryData(["stock"], ["of another house"]);
  expect(draft.getCurrentResult().status).toBe("pending");
  forgetAnswers(queries, allButSession);
  await Promise.resolve();
  // Its first question was taken back; the second one is answered.
  for (const answer of answers) answer("hers");
  await expect.poll(() => draft.getCurrentResult().data).toBe("hers");
  expect(asked.length).toBe(2);
  expect(queries.getQueryData(["stock"])).toBeUndefined();
  expect(queries.getQueryData(["session"])).toEqual({ person: 7 });
  stop();
});
