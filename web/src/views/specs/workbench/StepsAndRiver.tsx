import { replaceEqualDeep } from "@tanstack/react-query";
import { type ReactNode, useMemo, useRef } from "react";
import type { SpecFile, SpecStep } from "../../../api/client";
import { River } from "../../../river/River";
import { flowing } from "../flowing";
import type { Remark } from "./remarks";
import { StepFields } from "./StepFields";
import { StepRow } from "./StepRow";
import { stepViews } from "./stepViews";
import type { DraftHandle, Result } from "./useDraft";
import { useRows } from "./useRows";
import { VesselFigures } from "./VesselFigures";
import { rowHeight } from "./walking";

export interface StepsAndRiverProps {
  steps: readonly SpecStep[];
  body: SpecFile;
  result: Result;
  remarks: readonly Remark[];
  chosen: string | null;
  close: boolean;
  mayEdit: boolean;
  onSelect: (step: string) => void;
  onWorking: (step: string, name: string) => void;
  edit: DraftHandle["edit"];
  /** What stands below the last step. */
  children: ReactNode;
}

/** The same object as before wherever nothing in it has changed, so that a row is drawn again only for its own sake. */
function useUnchanged<T>(value: T): T {
  const before = useRef(value);
  before.current = replaceEqualDeep(before.current, value);
  return before.current;
}

/** The steps down the page, each with what is in the vessel after it, and the river beside them. */
export function StepsAndRiver(props: StepsAndRiverProps) {
  const { steps, body, result, remarks, chosen, close, mayEdit, onSelect, onWorking, edit, children } = props;
  const { list, rows } = useRows(steps.length);
  const views = useUnchanged(useMemo(() => stepViews(steps, result, remarks, mayEdit), [steps, result, remarks, mayEdit]));
  const flows = useMemo(() => new Map(result.steps.map((flow) => [flow.id, flow])), [result.steps]);
  const names = useMemo(
    () =>
      Object.fromEntries(
        result.steps.flatMap((step) => step.added.map((added) => [added.line, result.words.names[added.material]?.split(",")[0] ?? ""])),
      ),
    [result.steps, result.words],
  );
  const { vessels } = body;
  const stream = useMemo(() => result.steps.map((step) => flowing(step, vessels ?? [])), [result.steps, vessels]);
  const banks = useMemo(() => rows.slice(0, result.steps.length), [rows, result.steps.length]);
  return (
    <section className="tray overflow-hidden" aria-label="Steps and river">
      <div className="relative">
        <ol ref={list} className="relative">
          {steps.map((step, i) => {
            const flow = flows.get(step.id);
            const view = views[i];
            const selected = chosen === step.id;
            return (
              <li
                key={step.id}
                className={`grid grid-cols-1 border-b border-line md:grid-cols-[46%_1fr_116px] ${rowHeight(close && selected, close, steps.length)}`}
              >
                {view ? (
                  <StepRow
                    view={view}
                    number={i + 1}
                    selected={selected}
                    mayEdit={mayEdit}
                    onSelect={onSelect}
                    onWorking={onWorking}
                    edit={edit}
                  >
                    {selected && mayEdit ? (
                      <StepFields
                        step={step}
                        body={body}
                        title={view.title}
                        names={result.words.names}
                        refusals={result.refusals}
                        edit={edit}
                      />
                    ) : null}
                  </StepRow>
                ) : null}
                <div className="hidden border-l border-line md:block" />
                <div className={`z-10 hidden md:block ${selected ? "bg-pick" : ""}`}>
                  {flow && flow.mass_g.value > 0 ? (
                    <VesselFigures
                      step={flow}
                      readBrix={i === 0 && flow.added.length === 1 && result.read[flow.added[0]?.material ?? ""] === true}
                      onWorking={onWorking}
                    />
                  ) : null}
                </div>
              </li>
            );
          })}
        </ol>
        <div className="pointer-events-none absolute inset-y-0 right-[116px] left-[46%] hidden md:block">
          <River steps={stream} rows={banks} names={names} title={`What is in the vessel over ${steps.length} steps`} />
        </div>
      </div>
      {steps.length === 0 ? <p className="p-5 text-soft">No step yet. Press N and say what goes in first.</p> : null}
      {children}
    </section>
  );
}
