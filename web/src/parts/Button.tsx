import type { ComponentProps } from "react";

const LOOKS = {
  main: "bg-rim text-on-rim border-rim font-bold",
  plain: "bg-enamel text-rim border-rim font-semibold",
  quiet: "bg-transparent text-ink border-transparent hover:bg-pick font-semibold",
  warn: "bg-enamel text-warn border-warn font-semibold",
} as const;

export interface ButtonProps extends ComponentProps<"button"> {
  look?: keyof typeof LOOKS;
  size?: "usual" | "bench";
  shortcut?: string;
}

export function Button({ look = "plain", size = "usual", shortcut, className = "", children, ...rest }: ButtonProps) {
  const room = size === "bench" ? "min-h-[72px] px-6 rounded-[16px] text-[22px] border-2" : "min-h-11 px-4 rounded-full text-[15px] border";
  return (
    <button
      type="button"
      className={`act inline-flex items-center justify-center gap-2 disabled:cursor-not-allowed disabled:border-line disabled:bg-quiet disabled:text-soft ${room} ${LOOKS[look]} ${className}`}
      {...rest}
    >
      {children}
      {shortcut ? <Key on={look === "main"}>{shortcut}</Key> : null}
    </button>
  );
}

/** The key that does the same. */
export function Key({ children, on = false }: { children: string; on?: boolean }) {
  return (
    <span
      aria-hidden="true"
      className={`figures hidden rounded-md border px-1.5 text-[14px] font-normal md:inline ${on ? "border-current/40" : "border-line text-soft"}`}
    >
      {children}
    </span>
  );
}
