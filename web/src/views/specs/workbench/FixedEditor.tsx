import { Field } from "../../../parts/Field";
import { amountText, type End, edited, type Fixed, rangeOf, withEnd } from "./amounts";

const text = (value: unknown) => (value === undefined || value === null ? "" : String(value));

interface FixedEditorProps {
  amount: Fixed;
  name: string;
  fault: string | undefined;
  set: (next: Fixed) => void;
}

const ENDS: readonly { end: End; label: (name: string) => string; before: string }[] = [
  { end: "low", label: (name) => `Least of ${name}`, before: "from" },
  { end: "high", label: (name) => `Most of ${name}`, before: "to" },
];

/** So much of it, with its range where it has one; whether the maker settles it by taste, and whether it grows with the batch. */
export function FixedEditor({ amount, name, fault, set }: FixedEditorProps) {
  const ranged = rangeOf(amount);
  const marks = [
    { says: "to taste", on: amount.to_taste === true, next: { ...amount, to_taste: amount.to_taste !== true } },
    { says: "same in every batch", on: amount.scales === false, next: { ...amount, scales: amount.scales === false } },
  ];
  return (
    <>
      <Field
        hideLabel
        label={`Amount of ${name}`}
        placeholder="1 kg, 2 cups …"
        className="w-36"
        {...(ranged ? { unit: ranged.unit } : {})}
        value={ranged ? text(ranged.range.value) : amountText(amount)}
        fault={fault}
        onChange={(next) => set(edited(amount, next))}
      />
      {ranged
        ? ENDS.map(({ end, label, before }) => (
            <span key={end} className="flex items-baseline gap-1.5">
              <span className="text-soft">{before}</span>
              <Field
                hideLabel
                label={label(name)}
                unit={ranged.unit}
                className="w-28"
                inputMode="decimal"
                value={text(ranged.range[end])}
                onChange={(next) => set(withEnd(amount, ranged, end, next))}
              />
            </span>
          ))
        : null}
      {marks.map(({ says, on, next }) => (
        <button
          key={says}
          type="button"
          aria-pressed={on}
          aria-label={`${name}: ${says}`}
          onClick={() => set(next)}
          className={`min-h-11 rounded-full border px-3 text-[14px] ${on ? "border-rim bg-rim text-on-rim font-bold" : "border-line text-soft"}`}
        >
          {says}
        </button>
      ))}
    </>
  );
}
