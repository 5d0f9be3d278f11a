import type { ReactNode } from "react";

/** A way out of the house, as large as a button at the bench: `opened` beside the page (paper, text), else kept as a file. */
export function WayOut({ href, opened = false, children }: { href: string; opened?: boolean; children: ReactNode }) {
  return (
    <a
      className="inline-flex min-h-14 items-center justify-center rounded-xl border border-rim px-4 text-[17px] font-semibold text-rim hover:bg-pick"
      href={href}
      {...(opened ? { target: "_blank", rel: "noreferrer" } : {})}
    >
      {children}
    </a>
  );
}
