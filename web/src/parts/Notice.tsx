import type { ReactNode } from "react";
import { Problem } from "../api/client";

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

/** What went wrong with the last thing tried, in words. */
export function Trouble({ error }: { error: unknown }) {
  if (!error) return null;
  const text = error instanceof Problem ? error.detail : "Something went wrong on our side. Try again.";
  return (
    <Notice severity="stop" live>
      {text}
    </Notice>
  );
}

/** The shape of what comes, under the heading of the page where there is one already. */
export function Shape({ rows = 4, title }: { rows?: number; title?: string }) {
  const shape = (
    <div role="status" aria-label="Loading" className={`tray p-6 ${title ? "" : "m-5"}`}>
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
