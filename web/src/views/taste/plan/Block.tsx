import type { ReactNode } from "react";

/** A part of the form under its own heading. */
export function Block({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="grid gap-2">
      <legend className="mb-1.5 font-head text-[18px] font-bold">{title}</legend>
      {children}
    </fieldset>
  );
}
