import type { SpecAmount, SpecFile, SpecLine } from "../../../api/client";
import { TARGETS } from "../../../api/figures";
import { Choice } from "../../../parts/Choice";
import { Field, type FieldProps } from "../../../parts/Field";
import { begun } from "./amounts";
import { changeLine, steps } from "./body";
import { FixedEditor } from "./FixedEditor";

type Kind = SpecAmount["kind"];
const KINDS: readonly { value: Kind; label: string }[] = [
  { value: "fixed", label: "so much" },
  { value: "ratio", label: "by ratio to" },
  { value: "percent", label: "% of the vessel" },
  { value: "target", label: "up to a target" },
  { value: "state", label: "to a state" },
];
const ALL = { value: "all", label: "all of it" } as const;
const STATES = [
  { value: "cover", label: "cover it" },
  { value: "top_up", label: "up to the vessel's line" },
] as const;

export interface AmountEditorProps {
  line: SpecLine;
  body: SpecFile;
  names: Readonly<Record<string, string>>;
  fault?: string | undefined;
  edit: (change: (body: SpecFile) => SpecFile) => void;
}

/** What a ratio is taken to: a line by its id, or under this word a vessel by its. */
const VESSEL = "vessel ";

const text = (value: unknown) => (value === undefined || value === null ? "" : String(value));

/** How much of one line: so much, by ratio, by percent, or up to a target. What is typed goes to the server as typed. */
export function AmountEditor({ line, body, names, fault, edit }: AmountEditorProps) {
  const amount = line.amount ?? ({ kind: "fixed", written: "" } as SpecAmount);
  const set = (next: Record<string, unknown>) => edit(changeLine(line.id, { amount: next as unknown as SpecAmount }));
  const others = steps(body)
    .flatMap((step) => step.lines ?? [])
    .filter((other) => other.id !== line.id)
    .map((other) => ({ value: other.id, label: names[other.material] ?? other.material }));
  const name = names[line.material] ?? line.material;
  const against = body.driver && body.driver !== line.id ? body.driver : text(others[0]?.value);
  return (
    <div className="flex flex-wrap items-start gap-2">
      <Choice
        label={`How ${name} is measured`}
        value={amount.kind}
        options={line.material.includes(":") ? [...KINDS, ALL] : KINDS}
        onChange={(kind) => set(begun(kind, against))}
      />
      {amount.kind === "fixed" ? <FixedEditor amount={amount} name={name} fault={fault} set={(next) => set({ ...next })} /> : null}
      {amount.kind === "ratio" ? (
        <>
          <NumberField
            label={`Ratio of ${name}`}
            placeholder="0.62"
            value={text(amount.ratio)}
            fault={fault}
            onChange={(ratio) => set({ ...amount, ratio })}
          />
          <Choice
            label={`Weight or volume for ${name}`}
            value={amount.basis ?? "weight"}
            options={[
              { value: "weight", label: "g per g of" },
              { value: "volume", label: "mL per mL of" },
            ]}
            onChange={(basis) => set({ ...amount, basis })}
          />
          <Choice
            label={`${name} is measured against`}
            value={amount.to.vessel ? `${VESSEL}${amount.to.vessel}` : text(amount.to.line)}
            options={[
              ...others,
              ...(body.vessels ?? []).map((vessel) => ({
                value: `${VESSEL}${vessel.id}`,
                label: `what is in the ${vessel.name ?? vessel.id}`,
              })),
            ]}
            onChange={(to) => set({ ...amount, to: to.startsWith(VESSEL) ? { vessel: to.slice(VESSEL.length) } : { line: to } })}
          />
        </>
      ) : null}
      {amount.kind === "state" ? (
        <Choice
          label={`State to reach with ${name}`}
          value={amount.state}
          options={STATES}
          onChange={(state) => set({ ...amount, state })}
        />
      ) : null}
      {amount.kind === "percent" ? (
        <>
          <NumberField
            label={`Percent of ${name}`}
            placeholder="0.7"
            value={text(amount.percent)}
            fault={fault}
            onChange={(percent) => set({ ...amount, percent })}
          />
          <Choice
            label={`Weight or volume for ${name}`}
            value={amount.basis ?? "w/w"}
            options={[
              { value: "w/w", label: "g per 100 g" },
              { value: "w/v", label: "g per 100 mL" },
              { value: "v/v", label: "mL per 100 mL" },
            ]}
            onChange={(basis) => set({ ...amount, basis })}
          />
        </>
      ) : null}
      {amount.kind === "target" ? (
        <>
          <NumberField
            label={`Target for ${name}`}
            placeholder="2.6"
            value={text(amount.value)}
            fault={fault}
            onChange={(value) => set({ ...amount, value })}
          />
          <Choice
            label={`What ${name} brings to a target`}
            value={amount.property as (typeof TARGETS)[number]["value"]}
            options={TARGETS}
            onChange={(property) => set({ ...amount, property })}
          />
        </>
      ) : null}
    </div>
  );
}

type NumberFieldProps = Pick<FieldProps, "label" | "placeholder" | "value" | "fault" | "onChange">;

/** The figure of an amount, as it is typed. */
function NumberField(props: NumberFieldProps) {
  return <Field hideLabel className="w-24" inputMode="decimal" {...props} />;
}
