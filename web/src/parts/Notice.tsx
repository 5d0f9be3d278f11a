import type { ReactNode } from "react";
import { Problem } from "../api/client";
import { Button } from "./Button";

const LOOKS = {
  stop: { word: "Stop", rim: "border-warn text-warn" },
  check: { word: "Check", rim: "border-sugar text-ink" },
  note: { word: "Note", rim: "border-line text-soft" },
} as const;

export type Severity = keyof typeof LOOKS;

/** A remark with its word; never by colour alone. */
export function Notice({ severity, children, live = false }: { severity: Severity; children: ReactNode; live?: boolean }) {
  const look = LOOKS[severity];
  return (
    <div {...(live ? { role: "alert" } : {})} className={`rounded-xl border-l-4 bg-quiet px-3 py-2 text-[14px] ${look.rim}`}>
      <strong className="mr-1.5">{look.word}.</strong>
      <span className="text-ink">{children}</span>
    </div>
  );
}

const inWords = (error: unknown) => (error instanceof Problem ? error.detail : "Something went wrong on our side.");

/** What went wrong with the last thing tried, in words. */
export function Trouble({ error }: { error: unknown }) {
  if (!error) return null;
  return (
    <Notice severity="stop" live>
      {inWords(error)}
    </Notice>
  );
}

/** What `useQuery` says of an answer that is waited for. */
interface Question {
  error: unknown;
  isFetching: boolean;
  refetch: () => unknown;
}

/** Why something could not be fetched, and a button that asks for it again where another answer can come. */
export function NotFetched({ questions }: { questions: readonly Question[] }) {
  const failed = questions.filter((question) => question.error);
  if (!failed[0]) return null;
  const { error } = failed[0];
  const final = error instanceof Problem && error.status >= 400 && error.status < 500;
  const asking = failed.some((question) => question.isFetching);
  return (
    <div className="my-3 grid justify-items-start gap-2">
      <Notice severity="stop" live>
        {inWords(error)}
      </Notice>
      {final ? null : (
        <Button disabled={asking} onClick={() => failed.forEach((question) => void question.refetch())}>
          {asking ? "Asking …" : "Ask again"}
        </Button>
      )}
    </div>
  );
}

/** A page of which nothing could be fetched. */
export function PageNotFetched({ title, question }: { title: string; question: Question }) {
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <h1 className="text-[32px]">{title}</h1>
      <NotFetched questions={[question]} />
    </main>
  );
}

/** The shape of what comes, under the heading of the page where there is one already. */
export function Shape({ rows = 4, title }: { rows?: number; title?: string }) {
  const shape = (
    <div role="status" aria-label="Loading" className="tray my-3 px-6 py-3">
      {Array.from({ length: rows }, (_, row) => `row ${row}`).map((key) => (
        <div key={key} className="my-3 h-9 rounded-lg bg-quiet" />
      ))}
    </div>
  );
  if (!title) return shape;
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <h1 className="mb-3 text-[32px]">{title}</h1>
      {shape}
    </main>
  );
}

/** An empty place says what will stand there and offers the first step. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="rounded-xl bg-quiet p-5">
      <h3 className="mb-1 text-[18px]">{title}</h3>
      <div className="text-[15px] text-soft">{children}</div>
    </div>
  );
}
