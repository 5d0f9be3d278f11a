import { useId } from "react";
import { Field, type FieldProps } from "./Field";
import { useRegister } from "./useRegister";

interface KnownFieldProps extends FieldProps {
  /** What is offered; nothing for a box in which nothing is known beforehand. */
  kind: "place" | "supplier" | null;
}

/** A text box that offers what the house's register has; anything else may be typed too. */
export function KnownField({ kind, ...field }: KnownFieldProps) {
  const list = useId();
  const known = useRegister(kind ?? "");
  return (
    <>
      <Field {...field} {...(known.length ? { list } : {})} />
      <datalist id={list}>
        {known.map((entry) => (
          <option key={entry.id} value={entry.name} />
        ))}
      </datalist>
    </>
  );
}
