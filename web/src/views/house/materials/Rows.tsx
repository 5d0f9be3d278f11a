import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import type { Row } from "./makeup";

interface RowsProps {
  title: string;
  unit: string;
  choices: readonly { value: string; label: string }[];
  rows: readonly Row[];
  onChange: (rows: readonly Row[]) => void;
  /** What is wrong with the amount of a name. */
  fault: (name: string) => string | undefined;
}

/** Substances with an amount each: one more is chosen from the list, an empty one is left out. */
export function Rows({ title, unit, choices, rows, onChange, fault }: RowsProps) {
  const called = (name: string) => choices.find(({ value }) => value === name)?.label ?? name;
  const free = choices.filter(({ value }) => !rows.some(({ name }) => name === value));
  return (
    <fieldset>
      <legend className="mb-1 text-[14px] text-soft">{title}</legend>
      <div className="grid gap-2">
        {rows.map((row, at) => (
          <div key={row.name} className="flex items-start gap-2">
            <Field
              className="w-full max-w-80"
              label={called(row.name)}
              unit={unit}
              value={row.amount}
              fault={fault(row.name)}
              onChange={(amount) => onChange(rows.map((other, n) => (n === at ? { ...row, amount } : other)))}
            />
            <Button
              look="quiet"
              className="mt-6"
              onClick={() => onChange(rows.filter((_, n) => n !== at))}
              aria-label={`Without ${called(row.name)}`}
            >
              Without
            </Button>
          </div>
        ))}
        {free.length ? (
          <div>
            <Choice
              label={`${title}: one more`}
              value="more"
              options={[{ value: "more", label: "one more …" }, ...free]}
              onChange={(name) => (name === "more" ? null : onChange([...rows, { name, amount: "" }]))}
            />
          </div>
        ) : null}
      </div>
    </fieldset>
  );
}
