import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { Block } from "./Block";
import type { PlanText } from "./plan";

interface ServedProps {
  form: PlanText;
  onChange: (change: Partial<PlanText>) => void;
  fault: string | undefined;
}

const WAYS = [
  { value: "alone", label: "as they are" },
  { value: "drink", label: "each in the same drink" },
] as const;

/** Samples as they are, or each in one drink, dosed so that sugar, acid or volume is equal. */
export function Served({ form, onChange, fault }: ServedProps) {
  const put = (key: "pour_ml" | "drink_ml" | "drink_abv" | "drink") => (value: string) => onChange({ [key]: value });
  const inDrink = form.drink !== "";
  return (
    <Block title="How it is served">
      <div className="flex flex-wrap items-center gap-3">
        <Choice
          label="How it is served"
          value={inDrink ? "drink" : "alone"}
          onChange={(way) => onChange({ drink: way === "drink" ? "the same drink" : "" })}
          options={WAYS}
        />
        {inDrink ? (
          <Choice
            label="Equal"
            value={form.equal ?? "sugar"}
            onChange={(equal) => onChange({ equal })}
            options={[
              { value: "sugar", label: "equal sugar" },
              { value: "acid", label: "equal acid" },
              { value: "volume", label: "equal volume" },
            ]}
          />
        ) : null}
      </div>
      {inDrink ? (
        <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
          <Field label="The drink" value={form.drink} onChange={put("drink")} />
          <Field label="Of the first" unit="mL" inputMode="decimal" value={form.pour_ml} onChange={put("pour_ml")} />
          <Field label="The rest of it" unit="mL" inputMode="decimal" value={form.drink_ml} onChange={put("drink_ml")} />
          <Field label="Strength of the rest" unit="% vol" inputMode="decimal" value={form.drink_abv} onChange={put("drink_abv")} />
        </div>
      ) : null}
      {fault ? (
        <p role="alert" className="text-[14px] font-semibold text-warn">
          {fault}
        </p>
      ) : null}
    </Block>
  );
}
