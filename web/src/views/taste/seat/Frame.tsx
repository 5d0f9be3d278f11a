import type { ReactNode } from "react";

/** The whole screen of a phone: what it is about at the top, what to do below. */
export function Frame({ left, right, children }: { left: string; right: string; children: ReactNode }) {
  return (
    <div className="mx-auto flex min-h-[calc(100dvh-5px)] max-w-md flex-col">
      <header className="flex items-baseline justify-between gap-3 bg-enamel px-4 py-3">
        <span className="font-bold">{left}</span>
        <span className="text-soft">{right}</span>
      </header>
      <main className="flex flex-1 flex-col gap-4 p-4">{children}</main>
    </div>
  );
}
