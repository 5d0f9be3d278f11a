import { type ComponentProps, useId } from "react";

export interface FieldProps extends Omit<ComponentProps<"input">, "onChange" | "size"> {
  label: string;
  unit?: string;
  /** What is wrong with it, in words; shown under it and read out. */
  fault?: string | undefined;
  onChange: (value: string) => void;
  size?: "usual" | "bench";
  hideLabel?: boolean;
}

/** A labelled text box. What is typed stays as typed; the server says when it cannot be read. */
export function Field({ label, unit, fault, onChange, size = "usual", hideLabel = false, className = "", ...rest }: FieldProps) {
  const id = useId();
  const big = size === "bench";
  return (
    <div className={className}>
      <label htmlFor={id} className={hideLabel ? "sr-only" : `mb-1 block text-soft ${big ? "text-[20px]" : "text-[14px]"}`}>
        {label}
      </label>
      <div className="flex items-baseline gap-2">
        <input
          id={id}
          autoComplete="off"
          aria-invalid={fault ? true : undefined}
          aria-describedby={fault ? `${id}-fault` : undefined}
          className={`w-full rounded-xl border bg-enamel px-3 ${fault ? "border-warn" : "border-line"} ${big ? "figures h-20 text-[44px] font-bold" : "h-11 text-[16px]"}`}
          onChange={(event) => onChange(event.target.value)}
          {...rest}
        />
        {unit ? <span className={`shrink-0 text-soft ${big ? "text-[24px]" : "text-[14px]"}`}>{unit}</span> : null}
      </div>
      {fault ? (
        <p id={`${id}-fault`} role="alert" className={`mt-1 font-semibold text-warn ${big ? "text-[18px]" : "text-[14px]"}`}>
          {fault}
        </p>
      ) : null}
    </div>
  );
}
