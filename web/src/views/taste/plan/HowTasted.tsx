import { RadioGroup } from "radix-ui";
import type { Schemas } from "../../../api/client";
import { ATTRIBUTES } from "../../../api/rules";
import { Field } from "../../../parts/Field";
import { Block } from "./Block";
import type { PlanText } from "./plan";

interface HowTastedProps {
  form: PlanText;
  method: string;
  shown: Schemas["BeforehandOut"] | undefined;
  onChange: (change: Partial<PlanText>) => void;
  fault: (...places: string[]) => string | undefined;
}

const LINE = {
  difference: ["We switch if at most so many guests in a hundred can tell", "in 100"],
  preference: ["It counts if at least so many guests in a hundred prefer it", "in 100"],
  standing: ["A difference matters from so many points on", "points"],
} as const;

/** The method that Ulsek proposes, how many taste how often, and what difference matters. */
export function HowTasted({ form, method, shown, onChange, fault }: HowTastedProps) {
  const [lineWords, lineUnit] = LINE[form.aim];
  const put = (key: "tasters" | "rounds" | "line" | "glass_ml") => (value: string) => onChange({ [key]: value });
  return (
    <Block title="How it is tasted">
      {shown && shown.methods.length > 1 ? (
        <RadioGroup.Root
          aria-label="Method"
          value={method}
          onValueChange={(key) => onChange({ method: key })}
          className="grid gap-2 sm:grid-cols-2"
        >
          {shown.methods.map((item) => (
            <RadioGroup.Item
              key={item.key}
              value={item.key}
              className="rounded-[14px] border border-line p-3 text-left data-[state=checked]:border-rim data-[state=checked]:bg-pick data-[state=checked]:shadow-[inset_0_0_0_1px_var(--rim)]"
            >
              <b className="block text-[16px]">{item.name}</b>
              <span className="text-[14px] text-soft">{item.why}</span>
            </RadioGroup.Item>
          ))}
        </RadioGroup.Root>
      ) : (
        <p className="text-[15px]">
          <b>{shown?.methods[0]?.name}.</b> <span className="text-soft">{shown?.methods[0]?.why}</span>
        </p>
      )}
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        <Field label="Tasters" inputMode="numeric" value={form.tasters} onChange={put("tasters")} fault={fault("tasters")} />
        <Field label="Times each" inputMode="numeric" value={form.rounds} onChange={put("rounds")} fault={fault("rounds")} />
        <Field
          label="In each glass"
          unit="mL"
          inputMode="decimal"
          value={form.glass_ml}
          onChange={put("glass_ml")}
          fault={fault("glass_ml")}
        />
      </div>
      <Field
        label={lineWords}
        unit={lineUnit}
        inputMode="decimal"
        value={form.line}
        onChange={put("line")}
        fault={fault("line")}
        className="max-w-md"
      />
      {form.aim === "standing" ? (
        <div className="flex flex-wrap gap-x-5">
          {ATTRIBUTES.map(({ key, name }) => (
            <Tick
              key={key}
              on={form.attributes.includes(key)}
              onChange={(on) => onChange({ attributes: on ? [...form.attributes, key] : form.attributes.filter((item) => item !== key) })}
            >
              ask after: {name}
            </Tick>
          ))}
        </div>
      ) : null}
      <Tick on={form.dark} onChange={(dark) => onChange({ dark })}>
        Dark glasses: the colour would give it away
      </Tick>
      {form.aim === "difference" && form.rounds.trim() === "1" ? (
        <Tick on={form.sequential} onChange={(sequential) => onChange({ sequential })}>
          Stop as soon as it is decided: by a rule that is fixed now
        </Tick>
      ) : null}
      {fault("attributes", "is_sequential", "method") ? (
        <p role="alert" className="text-[14px] font-semibold text-warn">
          {fault("attributes", "is_sequential", "method")}
        </p>
      ) : null}
    </Block>
  );
}

function Tick({ on, onChange, children }: { on: boolean; onChange: (on: boolean) => void; children: React.ReactNode }) {
  return (
    <label className="flex min-h-11 cursor-pointer items-center gap-2.5 text-[16px]">
      <input type="checkbox" checked={on} onChange={(event) => onChange(event.target.checked)} className="size-5 accent-rim" />
      <span>{children}</span>
    </label>
  );
}
