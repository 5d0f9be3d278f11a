import type { SpecFile, SpecStep } from "../../../api/client";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { changeStep } from "./body";

export interface OnwardProps {
  step: SpecStep;
  body: SpecFile;
  edit: (change: (body: SpecFile) => SpecFile) => void;
}

/** Where what comes of a step goes, and under which name what leaves is kept. */
export function Onward({ step, body, edit }: OnwardProps) {
  const others = (body.vessels ?? []).filter((vessel) => vessel.id !== step.vessel);
  return (
    <div className="flex flex-wrap items-end gap-3">
      {others.length > 0 ? (
        <Choice
          label="Where it goes"
          value={step.into || "stays"}
          options={[
            { value: "stays", label: "stays in this vessel" },
            ...others.map((vessel) => ({ value: vessel.id, label: `goes into the ${vessel.name ?? vessel.id}` })),
          ]}
          onChange={(into) => edit(changeStep(step.id, { into: into === "stays" ? "" : into }))}
        />
      ) : null}
      <Field
        label="Keep what leaves as"
        className="w-56"
        placeholder="nothing is kept"
        value={step.by_product ?? ""}
        onChange={(by_product) => edit(changeStep(step.id, { by_product }))}
      />
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="size-5 accent-rim"
          checked={step.keep_sample ?? false}
          onChange={(event) => edit(changeStep(step.id, { keep_sample: event.target.checked }))}
        />
        a sample is set aside after it
      </label>
    </div>
  );
}
