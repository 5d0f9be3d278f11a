import { useQuery } from "@tanstack/react-query";
import { memo, useState } from "react";
import type { SpecFile, SpecStep } from "../../api/client";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Field } from "../../parts/Field";
import { Notice, type Severity } from "../../parts/Notice";
import { figure, GAP } from "../../parts/numbers";
import { AmountEditor } from "./AmountEditor";
import {
  addAlternative,
  addLine,
  changeStep,
  changeVerb,
  joinNext,
  mayJoin,
  moveStep,
  removeLine,
  removeStep,
  settleDoubt,
  splitStep,
  steps,
  type Verb,
} from "./body";
import { MaterialPicker } from "./MaterialPicker";
import type { Result } from "./useDraft";

export interface StepRowProps {
  step: SpecStep;
  number: number;
  /** The whole draft, for the fields of the selected step alone: the others need not be drawn again at a keystroke. */
  body: SpecFile | null;
  result: Result;
  selected: boolean;
  mayEdit: boolean;
  onSelect: (step: string) => void;
  onWorking: (step: string, name: string) => void;
  edit: (change: (body: SpecFile) => SpecFile) => void;
}

/** One step beside the river: what to do and how much; its fields when it is the selected one. */
export const StepRow = memo(function StepRow({ step, number, body, result, selected, mayEdit, onSelect, onWorking, edit }: StepRowProps) {
  const flow = result.steps.find((item) => item.id === step.id);
  const place = `steps/${step.id}`;
  const remarks = result.remarks.filter(
    (remark) => remark.where === place || (remark.where.startsWith(`${place}/`) && (!mayEdit || remark.code === "open_doubt")),
  );
  const title = result.words.steps[step.id] ?? step.verb;
  return (
    <div className={`grid grid-cols-[34px_1fr] gap-x-3 px-4 py-3 ${selected ? "bg-pick" : ""}`}>
      <span className={`figures pt-0.5 text-right text-[20px] font-bold ${selected ? "text-rim" : "text-soft"}`} aria-hidden="true">
        {number}
      </span>
      <div className="min-w-0">
        <div className="flex items-start justify-between gap-3">
          <button
            type="button"
            onClick={() => onSelect(step.id)}
            aria-expanded={selected}
            className="-m-1 min-h-11 flex-1 rounded-lg p-1 text-left"
          >
            <span className="block text-[16px] leading-snug font-bold">{title}</span>
            {step.note && !selected ? <span className="block text-[14px] leading-snug text-soft">{step.note}</span> : null}
          </button>
          <div className="grid shrink-0 justify-items-end gap-1">
            {flow?.added.map((added) => (
              <button
                type="button"
                key={added.line}
                onClick={() => onWorking(step.id, `line:${added.line}`)}
                className="min-h-11 rounded-md px-1 text-right leading-tight hover:bg-pick"
                aria-label={`${result.words.names[added.material]}: ${figure(added.mass_g.value)} g. Show the working`}
              >
                <span className="figures text-[16px] font-bold">
                  {figure(added.mass_g.value)}
                  {GAP}g
                </span>
                {result.words.beside[added.line] ? <span className="block text-[14px]">{result.words.beside[added.line]}</span> : null}
                <span className="block max-w-[132px] text-[14px] text-soft">
                  {result.words.lines[added.line] ?? result.words.names[added.material]}
                </span>
              </button>
            ))}
          </div>
        </div>
        {body && mayEdit ? <StepFields step={step} body={body} result={result} edit={edit} /> : null}
        {remarks
          // What is only worth knowing stands where one looks: at the step in hand.
          .filter((remark) => remark.severity !== "note" || selected)
          .map((remark) => (
            <div key={remark.code + remark.text} className="mt-2 flex items-start gap-2">
              <div className="flex-1">
                <Notice severity={remark.severity as Severity}>
                  {remark.text} {remark.remedy}
                </Notice>
              </div>
              {remark.entry && mayEdit ? (
                <Button onClick={() => remark.entry && edit(settleDoubt(remark.entry))} aria-label={`Tick off: ${remark.text}`}>
                  Settled
                </Button>
              ) : null}
            </div>
          ))}
      </div>
    </div>
  );
});

type Fields = Pick<StepRowProps, "step" | "result" | "edit"> & { body: SpecFile };

function StepFields({ step, body, result, edit }: Fields) {
  const [more, setMore] = useState(false);
  const fault = (part: string) => result.refusals.find((refusal) => refusal.where === `steps/${step.id}${part}`)?.text;
  const lineFault = (line: string) => result.refusals.find((refusal) => refusal.where.startsWith(`steps/${step.id}/lines/${line}`))?.text;
  const verbs = useQuery(ask.words()).data?.verbs ?? [];
  const verb = verbs.find((item) => item.verb === step.verb);
  const next = steps(body)[steps(body).findIndex((item) => item.id === step.id) + 1];
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
        {verb?.params.some((param) => param.kind === "range") ? (
          <Button look="quiet" onClick={() => setMore(!more)} aria-expanded={more}>
            {more ? "Fewer figures" : "More figures"}
          </Button>
        ) : null}
      </div>
      {(step.lines ?? []).map((line) => (
        <div key={line.id} className="rounded-xl bg-quiet p-3">
          <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
            <span className="font-bold">{result.words.names[line.material] ?? line.material}</span>
            <span className="flex gap-1">
              {body.driver === line.id ? (
                <span className="self-center px-2 text-[14px] text-soft">sets the batch</span>
              ) : line.amount?.kind === "fixed" ? (
                <Button look="quiet" onClick={() => edit((next) => ({ ...next, driver: line.id }))}>
                  Set the batch by it
                </Button>
              ) : null}
              <Button
                look="quiet"
                onClick={() => edit(removeLine(line.id))}
                aria-label={`Leave out ${result.words.names[line.material] ?? line.material}`}
              >
                Leave out
              </Button>
            </span>
          </div>
          <AmountEditor line={line} body={body} names={result.words.names} fault={lineFault(line.id)} edit={edit} />
        </div>
      ))}
      <div className="flex flex-wrap items-center gap-2">
        {verb?.takes_lines ? <MaterialPicker label="Put something in" onPick={(key) => edit(addLine(step.id, key))} /> : null}
        <span className="flex-1" />
        <Button look="quiet" onClick={() => edit(moveStep(step.id, -1))} aria-label="Move this step up">
          ↑ earlier
        </Button>
        <Button look="quiet" onClick={() => edit(moveStep(step.id, 1))} aria-label="Move this step down">
          ↓ later
        </Button>
        {(step.lines?.length ?? 0) > 1 ? (
          <Button look="quiet" onClick={() => edit(splitStep(step.id))}>
            Split
          </Button>
        ) : null}
        {mayJoin(step, next) ? (
          <Button look="quiet" onClick={() => edit(joinNext(step.id))}>
            Join the next
          </Button>
        ) : null}
        {step.only ? null : (
          <Button look="quiet" onClick={() => edit(addAlternative(step.id, result.words.steps[step.id] ?? step.verb))}>
            Another way
          </Button>
        )}
        <Button look="quiet" onClick={() => edit(removeStep(step.id))}>
          Remove step
        </Button>
      </div>
      {more || step.by_product || step.into || step.keep_sample ? <Onward step={step} body={body} edit={edit} /> : null}
      <Field
        label="How to do it"
        value={step.note ?? ""}
        onChange={(note) => edit(changeStep(step.id, { note }))}
        placeholder="rain it in, keep stirring"
      />
    </div>
  );
}

interface StepParamProps {
  param: Verb["params"][number];
  step: SpecStep;
  fault: string | undefined;
  edit: StepRowProps["edit"];
}

/** One parameter of the step's verb, as the verb declares it: a figure with its unit, a prior with its range, one of a few words. */
function StepParam({ param, step, fault, edit }: StepParamProps) {
  const value = step[param.name as keyof SpecStep];
  const set = (next: unknown) => edit(changeStep(step.id, { [param.name]: next } as Partial<SpecStep>));
  if (param.kind === "choice" || param.kind === "flag") {
    const words = param.kind === "flag" ? ["no", "yes"] : param.allowed;
    const now = param.kind === "flag" ? (value ? "yes" : "no") : String(value ?? param.usual);
    return (
      <Choice
        label={param.label}
        value={now}
        options={words.map((word) => ({ value: word, label: `${param.label}: ${word.replaceAll("_", " ")}` }))}
        onChange={(next) => set(param.kind === "flag" ? next === "yes" : next)}
      />
    );
  }
  const usual = param.kind === "range" ? param.usual : null;
  const typical = usual ? `${usual.value} (${usual.low} to ${usual.high})` : "";
  return (
    <Field
      label={param.label}
      unit={param.kind === "text" ? "" : param.unit}
      className={param.kind === "text" ? "w-48" : "w-40"}
      inputMode={param.kind === "text" ? "text" : "decimal"}
      placeholder={typical}
      value={value === undefined || value === null || typeof value === "object" ? "" : String(value)}
      fault={fault}
      onChange={(next) => set(next === "" && param.kind === "range" ? undefined : next)}
    />
  );
}

/** Where what comes of a step goes, and under which name what leaves is kept. */
function Onward({ step, body, edit }: Pick<Fields, "step" | "body" | "edit">) {
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
