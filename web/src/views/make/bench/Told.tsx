import type { ReactNode } from "react";

const RIMS = {
  warn: "border-l-[9px] border-warn font-bold",
  sugar: "border-l-[9px] border-sugar",
  good: "border-l-[9px] border-good",
  none: "",
} as const;

/** Something that the bench says while work goes on, read at arm's length. */
export function Told({ rim = "none", children }: { rim?: keyof typeof RIMS; children: ReactNode }) {
  return (
    <p role="status" className={`rounded-[14px] bg-quiet p-4 text-[20px] leading-snug ${RIMS[rim]}`}>
      {children}
    </p>
  );
}
