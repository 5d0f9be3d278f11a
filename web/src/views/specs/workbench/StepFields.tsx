import { useQuery } from "@tanstack/react-query";
import { memo, useState } from "react";
import type { SpecFile, SpecStep } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { changeStep, changeVerb } from "./body";
import { LineFields } from "./LineFields";
import { Onward } from "./Onward";
import { PotChoice } from "./PotChoice";
import { StepMoves } from "./StepMoves";
import { StepParam } from "./StepParam";
import type { Result } from "./useDraft";

export interface StepFieldsProps {
  step: SpecStep;
  body: SpecFile;
  title: string;
  names: Readonly<Record<string, string>>;
  refusals: Result["refusals"];
  edit: (change: (body: SpecFile) => SpecFile) => void;
}

/** The fields of the selected step: its verb with that verb's figures, its lines, and what may be done with it. */
export const StepFields = memo(function StepFields({ step, body, title, names, refusals, edit }: StepFieldsProps) {
  const [more, setMore] = useState(false);
  const place = `steps/${step.id}`;
  const fault = (part: string) => refusals.find((refusal) => refusal.where === place + part)?.text;
  const faultAt = (part: string) => refusals.find((refusal) => refusal.where.startsWith(place + part))?.text;
  const verbs = useQuery(ask.words()).data?.verbs ?? [];
  const verb = verbs.find((item) => item.verb === step.verb);
  return (
    <div className="mt-3 grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <Choice
          label="What is done in this step"
          value={step.verb}
          options={verbs.map((item) => ({ value: item.verb as SpecStep["verb"], label: item.word, group: item.family_word }))}
          onChange={(chosen) => {
            const next = verbs.find((item) => item.verb === chosen);
            if (next) edit(changeVerb(step.id, next));
          }}
        />
        {verb?.params
          .filter((param) => param.kind !== "range" || more || step[param.name as keyof SpecStep] !== undefined)
          .map((param) => (
            <StepParam key={param.name} param={param} step={step} fault={fault(`/${param.name}`)} edit={edit} />
          ))}
        {verb ? <PotChoice verb={verb} step={step} edit={edit} /> : null}
        {verb?.params.some((param) => param.kind === "range") ? (
          <Button look="quiet" onClick={() => setMore(!more)} aria-expanded={more}>
            {more ? "Fewer figures" : "More figures"}
          </Button>
        ) : null}
      </div>
      {(step.lines ?? []).map((line) => (
        <LineFields key={line.id} line={line} body={body} names={names} fault={faultAt(`/lines/${line.id}`)} edit={edit} />
      ))}
      <StepMoves step={step} body={body} title={title} takesLines={verb?.takes_lines ?? false} edit={edit} />
      {more || step.by_product || step.into || step.keep_sample ? <Onward step={step} body={body} edit={edit} /> : null}
      <Field
        label="How to do it"
        value={step.note ?? ""}
        onChange={(note) => edit(changeStep(step.id, { note }))}
        placeholder="rain it in, keep stirring"
      />
    </div>
  );
});
