import { memo, useState } from "react";
import type { Schemas, SpecFile } from "../../../api/client";
import { GOALS } from "../../../api/figures";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { setGoal, setServedIn, setVessel } from "./body";
import type { DraftHandle } from "./useDraft";

const HALVES = [
  { name: "dose_ml", label: "So much of it" },
  { name: "drink_ml", label: "in a drink of" },
] as const;
const SPIRIT = [
  { value: "unknown", label: "alcohol: not said" },
  { value: "yes", label: "with alcohol" },
  { value: "no", label: "without alcohol" },
] as const;

type Remarks = readonly Schemas["Remark"][];
/** What is wrong at one place of the spec, in words. */
function faultAt(remarks: Remarks, where: string): string | undefined {
  const found = remarks.find((remark) => remark.where === where);
  return found ? `${found.text} ${found.remedy}`.trim() : undefined;
}

/** What is said of a spec as a whole: its goals, where it comes from, the drink that it is for, what its vessel holds. */
export const AboutSpec = memo(function AboutSpec({ body, remarks, edit }: { body: SpecFile; remarks: Remarks; edit: DraftHandle["edit"] }) {
  return (
    <section className="tray grid grid-cols-2 gap-3 p-4" aria-label="About the spec">
      <div className="col-span-2 grid grid-cols-3 gap-3">
        {GOALS.map((goal) => {
          const set = body.goals?.find((item) => item.property === goal.property);
          return (
            <Field
              key={goal.property}
              label={goal.label}
              inputMode="decimal"
              value={set ? String(set.value) : ""}
              onChange={(value) => edit(setGoal(goal.property, value, Number(set?.tolerance ?? goal.tolerance)))}
            />
          );
        })}
        <Field
          label="A serve"
          unit="mL"
          inputMode="decimal"
          value={String(body.serve_ml ?? "")}
          fault={faultAt(remarks, "spec/serve_ml")}
          onChange={(serve_ml) => edit((now) => ({ ...now, serve_ml }))}
        />
      </div>
      <Field
        className="col-span-2"
        label="Where it comes from"
        placeholder="our own; a note of March; with thanks to …"
        value={body.source ?? ""}
        onChange={(source) => edit((now) => ({ ...now, source }))}
      />
      <Field
        className="col-span-2"
        label="By whose leave"
        value={body.permission ?? ""}
        onChange={(permission) => edit((now) => ({ ...now, permission }))}
      />
      {body.family === "drink" ? null : <DrinkItIsFor body={body} remarks={remarks} edit={edit} />}
      {(body.vessels ?? []).map((vessel, i) => (
        <fieldset key={vessel.id} className="col-span-2 grid grid-cols-2 gap-3">
          <legend className="mb-1 text-[14px] font-semibold first-letter:uppercase">{vessel.name || "Vessel"}</legend>
          <Field
            label="holds"
            unit="mL"
            inputMode="decimal"
            value={String(vessel.capacity_ml ?? "")}
            fault={faultAt(remarks, `vessels/${i + 1}/capacity_ml`)}
            onChange={(value) => edit(setVessel(vessel.id, "capacity_ml", value))}
          />
          <Field
            label="fill line"
            placeholder="siphon, freezer"
            unit="mL"
            inputMode="decimal"
            value={String(vessel.fill_line_ml ?? "")}
            fault={faultAt(remarks, `vessels/${i + 1}/fill_line_ml`)}
            onChange={(value) => edit(setVessel(vessel.id, "fill_line_ml", value))}
          />
        </fieldset>
      ))}
    </section>
  );
});

/** So much of it in a drink so large: what restricted amounts are judged in. It counts when both are said. */
function DrinkItIsFor({ body, remarks, edit }: { body: SpecFile; remarks: Remarks; edit: DraftHandle["edit"] }) {
  const said = body.served_in;
  const [half, setHalf] = useState({ dose_ml: "", drink_ml: "" });
  const shown = said ? { dose_ml: String(said.dose_ml), drink_ml: String(said.drink_ml) } : half;
  const alone = !said && (half.dose_ml.trim() !== "") !== (half.drink_ml.trim() !== "");
  const asked = said ? undefined : faultAt(remarks, "served_in");
  const type = (changes: Partial<typeof half>) => {
    const next = { ...shown, ...changes };
    setHalf(next);
    edit(setServedIn(next, said?.alcoholic));
  };
  return (
    <fieldset className="col-span-2 grid grid-cols-2 gap-3">
      <legend className="mb-1 text-[14px] font-semibold">The drink that it is for</legend>
      {HALVES.map(({ name, label }) => (
        <Field
          key={name}
          label={label}
          unit="mL"
          inputMode="decimal"
          value={shown[name]}
          fault={faultAt(remarks, `served_in/${name}`)}
          onChange={(text) => type({ [name]: text })}
        />
      ))}
      {said ? (
        <div className="col-span-2">
          <Choice
            label="With alcohol or without"
            value={said.alcoholic === undefined ? "unknown" : said.alcoholic ? "yes" : "no"}
            options={SPIRIT}
            onChange={(next) => edit(setServedIn(shown, next === "unknown" ? undefined : next === "yes"))}
          />
        </div>
      ) : null}
      {alone ? <p className="col-span-2 text-[14px] text-soft">It counts when both are there.</p> : null}
      {asked ? <p className="col-span-2 text-[14px] font-semibold text-warn">{asked}</p> : null}
    </fieldset>
  );
}
