import { parseDateTime } from "@internationalized/date";
import { useId } from "react";
import { DateField, DateInput, DateSegment, I18nProvider, Label } from "react-aria-components";
import { weekday } from "./say";

export interface MomentFieldProps {
  label: string;
  /** "2026-11-29T22:00" on the house's clock; empty while it is not whole. */
  value: string;
  onChange: (value: string) => void;
  fault?: string | undefined;
  className?: string;
  /** The house's country, as its units say. */
  locale: string;
}

const MINUTES = "2026-11-29T22:00".length;

/** A day and an hour, in the order of the house's country and always in 24 hours; each part is typed or stepped by arrow keys. */
export function MomentField({ label, value, onChange, fault, locale, className = "" }: MomentFieldProps) {
  const id = useId();
  return (
    <I18nProvider locale={locale === "us" ? "en-US" : "en-GB"}>
      <DateField
        granularity="minute"
        hourCycle={24}
        shouldForceLeadingZeros
        value={value ? parseDateTime(value) : null}
        onChange={(moment) => onChange(moment?.toString().slice(0, MINUTES) ?? "")}
        isInvalid={Boolean(fault)}
        {...(fault ? { "aria-describedby": `${id}-fault` } : {})}
        className={className}
      >
        <Label className="mb-1 block text-[14px] text-soft">{label}</Label>
        <div className="flex flex-wrap items-center gap-x-3">
          <DateInput
            className={`figures flex h-11 items-center rounded-xl border bg-enamel px-3 text-[16px] ${fault ? "border-warn" : "border-line"}`}
          >
            {(segment) => (
              <DateSegment
                segment={segment}
                className="min-h-6 content-center rounded px-0.5 whitespace-pre outline-none data-[focused]:bg-rim data-[focused]:text-on-rim data-[placeholder]:text-soft data-[type=literal]:px-0"
              />
            )}
          </DateInput>
          {value ? <span className="text-[14px] text-soft">{weekday(`${value}Z`)}</span> : null}
        </div>
      </DateField>
      {fault ? (
        <p id={`${id}-fault`} role="alert" className="mt-1 text-[14px] font-semibold text-warn">
          {fault}
        </p>
      ) : null}
    </I18nProvider>
  );
}
