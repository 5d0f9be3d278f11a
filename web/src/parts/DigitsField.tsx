import { Field } from "./Field";

/** The six digits of an authenticator, or a recovery code. */
export function DigitsField({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  return (
    <Field
      label="Six digits of your authenticator, or a recovery code"
      value={value}
      onChange={onChange}
      autoComplete="one-time-code"
      autoFocus
      required
    />
  );
}
