import { useCallback, useDeferredValue, useMemo, useRef, useState } from "react";
import type { SpecFile, SpecStep } from "../../../api/client";
import { useKeys } from "../../../parts/keys";
import { Told } from "../Told";
import { AboutSpec } from "./AboutSpec";
import { BenchFoot } from "./BenchFoot";
import { BenchHead } from "./BenchHead";
import { benchKeys } from "./benchKeys";
import { addStep, insertStep, shownSteps } from "./body";
import { InTheBottle } from "./InTheBottle";
import { KeepingAndCautions } from "./KeepingAndCautions";
import { Leftovers } from "./Leftovers";
import { OptionsPanel } from "./OptionsPanel";
import { OpenQuestionsProvider } from "./openQuestions";
import { PlatePanel } from "./PlatePanel";
import { PublishSheet } from "./PublishSheet";
import { SideDrafts } from "./SideDrafts";
import { StepLine } from "./StepLine";
import { StepsAndRiver } from "./StepsAndRiver";
import type { DraftHandle } from "./useDraft";
import { useSentStep } from "./useSentStep";
import { useWhatIf } from "./useWhatIf";
import { WhatIf } from "./WhatIf";
import { type WorkingAsked, WorkingSheet } from "./WorkingSheet";
import { walked } from "./walking";

export interface BenchProps {
  spec: string;
  draft: DraftHandle;
  mayEdit: boolean;
}

/** A draft on the workbench: its steps and river, what it comes to, and what may be tried. */
export function Bench({ spec, draft, mayEdit }: BenchProps) {
  const { body, result, remarks, trying, turned, turn, keep } = useWhatIf(draft);
  const calm = useDeferredValue(draft.body);
  const steps = useMemo(() => shownSteps(body, result.words.steps), [body, result.words.steps]);
  const [chosen, setChosen] = useState<string | null>(null);
  const [working, setWorking] = useState<WorkingAsked | null>(null);
  const [publishing, setPublishing] = useState(false);
  const [close, setClose] = useState(false);
  const flag = useRef<SVGGElement>(null);
  const line = useRef<HTMLInputElement>(null);
  const last = result.steps.at(-1)?.id ?? "";
  const { edit } = draft;
  const toggle = useCallback((step: string) => setChosen((now) => (now === step ? null : step)), []);
  const work = useCallback((step: string, name: string) => setWorking({ step, name }), []);
  const workLast = useCallback((name: string) => last && setWorking({ step: last, name }), [last]);
  const take = useCallback((taken: SpecFile) => edit(() => taken), [edit]);
  const put = (step: Partial<SpecStep>) => {
    const made = insertStep(draft.body, chosen, step);
    edit(() => made.body);
    setChosen(made.id);
  };
  useSentStep(mayEdit, put);
  const next = () => {
    const made = addStep(draft.body, chosen);
    edit(() => made.body);
    setChosen(made.id);
  };
  useKeys(
    benchKeys(mayEdit, {
      type: () => line.current?.focus(),
      addStep: next,
      undo: draft.undo,
      redo: draft.redo,
      flag: () => flag.current?.focus(),
      closeUp: () => setClose(!close),
      walk: (by) => setChosen(walked(steps, chosen, by)),
      working: () => last && setWorking({ step: chosen ?? last, name: "brix" }),
      fold: () => setChosen(null),
    }),
  );
  return (
    <main
      className="mx-auto max-w-[1400px] p-3 md:px-5 md:py-3"
      data-pending={draft.pending || undefined}
      data-core={draft.here ? "here" : "site"}
    >
      <BenchHead spec={spec} draft={draft} name={body.name} mayEdit={mayEdit} trying={trying} onPublish={() => setPublishing(true)} />
      {mayEdit ? <SideDrafts drafts={draft.known.beside} revision={draft.settled} /> : null}
      <div className="grid gap-3.5 lg:grid-cols-[minmax(0,1fr)_374px]">
        <div className="grid content-start gap-3.5">
          <OpenQuestionsProvider body={calm} edit={edit}>
            <StepsAndRiver
              steps={steps}
              body={body}
              result={result}
              remarks={remarks}
              chosen={chosen}
              close={close}
              mayEdit={mayEdit}
              onSelect={toggle}
              onWorking={work}
              edit={edit}
            >
              {mayEdit ? <StepLine box={line} onStep={put} onWords={(note) => put({ verb: "combine", note, lines: [] })} /> : null}
            </StepsAndRiver>
          </OpenQuestionsProvider>
          <div className="grid items-start gap-3.5 md:grid-cols-2">
            <div className="grid gap-3.5">
              {result.final ? <KeepingAndCautions final={result.final} /> : null}
              <Leftovers items={result.leftovers ?? []} />
            </div>
            {mayEdit ? <AboutSpec body={body} remarks={remarks} edit={edit} /> : null}
          </div>
        </div>
        <div className="grid content-start gap-3.5 lg:sticky lg:top-3 lg:max-h-[calc(100dvh-24px)] lg:overflow-y-auto">
          <InTheBottle final={result.final} drink={body.family === "drink"} serveCost={result.serve_cost} onWorking={workLast} />
          <Told claims={result.told ?? []} />
          {result.final ? (
            <PlatePanel
              body={trying ? body : calm}
              final={result.final}
              pins={draft.known.pins}
              mayEdit={mayEdit}
              flagRef={flag}
              onTake={take}
            />
          ) : null}
          {mayEdit ? <WhatIf body={calm} knobs={draft.result.knobs} turned={turned} onTurn={turn} onKeep={keep} /> : null}
          <OptionsPanel body={calm} result={draft.result} mayEdit={mayEdit} edit={edit} />
        </div>
      </div>
      <BenchFoot />
      <WorkingSheet asked={working} body={body} onClose={() => setWorking(null)} />
      <PublishSheet spec={spec} draft={draft} open={publishing} onClose={() => setPublishing(false)} />
    </main>
  );
}
