import { useQuery } from "@tanstack/react-query";
import { useCallback, useDeferredValue, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useLocation, useNavigate, useParams } from "react-router";
import type { SpecFile, SpecStep } from "../../api/client";
import { ask } from "../../api/queries";
import { type KeyAction, useKeys } from "../../app/keys";
import { canLead, useSession } from "../../app/session";
import { Button, Key } from "../../parts/Button";
import { Notice, Shape, Trouble } from "../../parts/Notice";
import { moment } from "../../parts/say";
import type { RowBox } from "../../river/layout";
import { River } from "../../river/River";
import { AboutSpec } from "./AboutSpec";
import { addStep, insertStep, shownSteps } from "./body";
import { flowing } from "./flowing";
import { InTheBottle, KeepingAndCautions } from "./InTheBottle";
import { Leftovers } from "./Leftovers";
import { OptionsPanel } from "./OptionsPanel";
import { PlatePanel } from "./PlatePanel";
import { PublishSheet } from "./PublishSheet";
import { remarksOf } from "./remarks";
import { SideDrafts } from "./SideDrafts";
import { SpecParts } from "./SpecParts";
import { StepLine } from "./StepLine";
import { StepRow } from "./StepRow";
import { type DraftHandle, type SaveState, useDraft } from "./useDraft";
import { VesselFigures } from "./VesselFigures";
import { WhatIf } from "./WhatIf";
import { type WorkingAsked, WorkingSheet } from "./WorkingSheet";
import { withTurned } from "./whatIf";

/** Tops and heights of the rows, so that the river runs beside them. */
function useRows(count: number) {
  const list = useRef<HTMLOListElement>(null);
  const [rows, setRows] = useState<RowBox[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new number of rows must be measured and watched again
  useLayoutEffect(() => {
    const element = list.current;
    if (!element) return;
    const measure = () => {
      const next = [...element.children].map((row) => ({
        top: (row as HTMLElement).offsetTop,
        height: (row as HTMLElement).offsetHeight,
      }));
      setRows((before) => (JSON.stringify(before) === JSON.stringify(next) ? before : next));
    };
    measure();
    const seen = new ResizeObserver(measure);
    for (const row of element.children) seen.observe(row);
    return () => seen.disconnect();
  }, [count]);
  return { list, rows };
}

/** Rows stand closer where there are many, and the chosen one opens when it is looked at close up. */
function rowHeight(opened: boolean, close: boolean, count: number): string {
  if (opened) return "md:min-h-[300px]";
  return close || count > 14 ? "md:min-h-[64px]" : "md:min-h-[84px]";
}

function saveWords(save: SaveState, zone: string): string {
  if (save.status === "saved") return `saved ${moment(save.at, zone)}${save.by === "you" ? "" : ` by ${save.by}`}`;
  if (save.status === "saving") return "saving …";
  if (save.status === "kept") return "kept on this device, waiting for Ulsek";
  return save.status === "conflict" ? "not saved here" : "refused";
}

/** The workbench: a spec is designed here, its steps beside the river of what is in the vessel. */
export function WorkbenchView() {
  const { spec = "" } = useParams();
  return <Workbench key={spec} spec={spec} />;
}

function Workbench({ spec }: { spec: string }) {
  const session = useSession();
  const { draft, error } = useDraft(spec);
  if (error) {
    return (
      <main className="p-5">
        <Trouble error={error} />
      </main>
    );
  }
  if (!draft) return <Shape rows={7} />;
  return <Bench spec={spec} draft={draft} mayEdit={canLead(session) && draft.save.status !== "conflict"} zone={session.zone} />;
}

/** A quick sum sent its answer here as a step: it goes in once, and can be undone like any other. */
function useSentStep(mayEdit: boolean, put: (step: Partial<SpecStep>) => void) {
  const { state, pathname } = useLocation() as { state: { step?: Partial<SpecStep> } | null; pathname: string };
  const go = useNavigate();
  const latest = useRef(put);
  latest.current = put;
  const step = mayEdit ? state?.step : undefined;
  useEffect(() => {
    if (!step) return;
    latest.current(step);
    void go(pathname, { replace: true, state: null });
  }, [step, go, pathname]);
}

function Bench({ spec, draft, mayEdit, zone }: { spec: string; draft: DraftHandle; mayEdit: boolean; zone: string }) {
  const families = useQuery(ask.words()).data?.families ?? [];
  const family = families.find((item) => item.key === draft.body.family)?.word.toLowerCase() ?? draft.body.family;
  const { save } = draft;
  const [turned, setTurned] = useState<Record<string, number>>({});
  const trying = Object.keys(turned).length > 0;
  const { knobs } = draft.result;
  const body = useMemo(() => (trying ? withTurned(draft.body, turned, knobs) : draft.body), [trying, draft.body, turned, knobs]);
  const { tries } = draft;
  useEffect(() => tries(trying ? body : null), [tries, trying, body]);
  const found = (trying && draft.tried) || draft.result;
  const result = useMemo(() => ({ ...found, remarks: remarksOf(found) }), [found]);
  const all = shownSteps(body, result.words.steps);
  const [chosen, setChosen] = useState<string | null>(null);
  const [working, setWorking] = useState<WorkingAsked | null>(null);
  const [publishing, setPublishing] = useState(false);
  const [close, setClose] = useState(false);
  const flag = useRef<SVGGElement>(null);
  const line = useRef<HTMLInputElement>(null);
  const { list, rows } = useRows(all.length);
  const last = result.steps.at(-1)?.id ?? "";
  const names = useMemo(
    () =>
      Object.fromEntries(
        result.steps.flatMap((step) => step.added.map((added) => [added.line, result.words.names[added.material]?.split(",")[0] ?? ""])),
      ),
    [result],
  );
  const { vessels } = body;
  const stream = useMemo(() => result.steps.map((step) => flowing(step, vessels ?? [])), [result, vessels]);
  const banks = useMemo(() => rows.slice(0, result.steps.length), [rows, result]);

  const toggle = useCallback((step: string) => setChosen((now) => (now === step ? null : step)), []);
  const work = useCallback((step: string, name: string) => setWorking({ step, name }), []);
  const workLast = useCallback((name: string) => last && setWorking({ step: last, name }), [last]);
  const { edit } = draft;
  const take = useCallback((taken: SpecFile) => edit(() => taken), [edit]);
  const calm = useDeferredValue(draft.body);
  const put = (step: Partial<SpecStep>) => {
    const made = insertStep(draft.body, chosen, step);
    draft.edit(() => made.body);
    setChosen(made.id);
  };
  useSentStep(mayEdit, put);
  const next = () => {
    const made = addStep(draft.body, chosen);
    draft.edit(() => made.body);
    setChosen(made.id);
  };
  const walk = (by: -1 | 1) => {
    const at = all.findIndex((step) => step.id === chosen);
    setChosen(all[Math.min(all.length - 1, Math.max(0, at < 0 ? (by > 0 ? 0 : all.length - 1) : at + by))]?.id ?? null);
  };
  const keys: KeyAction[] = [
    ...(mayEdit
      ? [
          { key: "n", says: "type the next step", does: () => line.current?.focus() },
          { key: "e", says: "an empty step", does: next },
          { key: "u", says: "undo", does: draft.undo },
          { key: "r", says: "redo", does: draft.redo },
          { key: "f", says: "flag", does: () => flag.current?.focus() },
        ]
      : []),
    { key: "z", says: "the chosen step close up, or all of them", does: () => setClose(!close) },
    { key: "ArrowUp", says: "step before", does: () => walk(-1) },
    { key: "ArrowDown", says: "step after", does: () => walk(1) },
    { key: "w", says: "working", does: () => last && setWorking({ step: chosen ?? last, name: "brix" }) },
    { key: "Escape", says: "fold the step", does: () => setChosen(null) },
  ];
  useKeys(keys);

  return (
    <main className="mx-auto max-w-[1400px] p-3 md:px-5 md:py-3" data-pending={draft.pending || undefined}>
      <div className="mb-2.5 flex flex-wrap items-center gap-x-4 gap-y-2">
        {mayEdit ? <h1 className="sr-only">{body.name}</h1> : null}
        <div className="min-w-[min(100%,340px)] flex-1">
          {mayEdit ? (
            <input
              aria-label="Name of the spec"
              value={body.name}
              onChange={(event) => draft.edit((now) => ({ ...now, name: event.target.value }))}
              className="-ml-2 min-h-11 w-full rounded-xl bg-transparent px-2 font-head text-[30px] leading-tight font-bold"
            />
          ) : (
            <h1 className="text-[30px]">{body.name}</h1>
          )}
          <p className="text-[15px] leading-tight text-soft" role="status">
            {family} · {draft.known.version ? `draft after version ${draft.known.version}` : "draft"}
            {draft.known.trial_of ? ` · trial beside ${draft.known.trial_of}` : ""}
            {draft.known.base ? ` · follows ${draft.known.base}` : ""} · {trying ? "only tried, nothing is kept" : saveWords(save, zone)}
          </p>
        </div>
        <SpecParts spec={spec} />
        {mayEdit ? (
          <div className="ml-auto flex flex-wrap items-center gap-2">
            <Button look="quiet" onClick={draft.undo} aria-label="Undo" shortcut="U">
              Undo
            </Button>
            <Button look="quiet" onClick={draft.redo} aria-label="Redo" shortcut="R">
              Redo
            </Button>
            <Button look="main" onClick={() => setPublishing(true)}>
              Check and publish
            </Button>
          </div>
        ) : null}
      </div>
      {save.status === "conflict" || save.status === "refused" ? (
        <div className="mb-3 flex items-center gap-3">
          <div className="flex-1">
            <Notice severity="stop" live>
              {save.text}
            </Notice>
          </div>
          <Button onClick={() => window.location.reload()}>Reload</Button>
        </div>
      ) : null}
      {mayEdit ? <SideDrafts drafts={draft.known.beside} revision={draft.settled} /> : null}
      <div className="grid gap-3.5 lg:grid-cols-[minmax(0,1fr)_374px]">
        <div className="grid content-start gap-3.5">
          <section className="tray overflow-hidden" aria-label="Steps and river">
            <div className="relative">
              <ol ref={list} className="relative">
                {all.map((step, i) => {
                  const flow = result.steps.find((item) => item.id === step.id);
                  return (
                    <li
                      key={step.id}
                      className={`grid grid-cols-1 border-b border-line md:grid-cols-[46%_1fr_116px] ${rowHeight(close && chosen === step.id, close, all.length)}`}
                    >
                      <StepRow
                        step={step}
                        number={i + 1}
                        body={chosen === step.id ? body : null}
                        result={result}
                        selected={chosen === step.id}
                        mayEdit={mayEdit}
                        onSelect={toggle}
                        onWorking={work}
                        edit={draft.edit}
                      />
                      <div className="hidden border-l border-line md:block" />
                      <div className={`z-10 hidden md:block ${chosen === step.id ? "bg-pick" : ""}`}>
                        {flow && flow.mass_g.value > 0 ? (
                          <VesselFigures
                            step={flow}
                            readBrix={i === 0 && flow.added.length === 1 && result.read[flow.added[0]?.material ?? ""] === true}
                            onWorking={work}
                          />
                        ) : null}
                      </div>
                    </li>
                  );
                })}
              </ol>
              <div className="pointer-events-none absolute inset-y-0 right-[116px] left-[46%] hidden md:block">
                <River steps={stream} rows={banks} names={names} title={`What is in the vessel over ${all.length} steps`} />
              </div>
            </div>
            {all.length === 0 ? <p className="p-5 text-soft">No step yet. Press N and say what goes in first.</p> : null}
            {mayEdit ? <StepLine box={line} onStep={put} onWords={(note) => put({ verb: "combine", note, lines: [] })} /> : null}
          </section>
          <div className="grid items-start gap-3.5 md:grid-cols-2">
            <div className="grid gap-3.5">
              {result.final ? <KeepingAndCautions final={result.final} /> : null}
              <Leftovers items={result.leftovers ?? []} />
            </div>
            {mayEdit ? <AboutSpec body={body} remarks={result.remarks} edit={draft.edit} /> : null}
          </div>
        </div>
        <div className="grid content-start gap-3.5 lg:sticky lg:top-3 lg:max-h-[calc(100dvh-24px)] lg:overflow-y-auto">
          <InTheBottle final={result.final} drink={body.family === "drink"} serveCost={result.serve_cost} onWorking={workLast} />
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
          {mayEdit ? (
            <WhatIf
              body={calm}
              knobs={draft.result.knobs}
              turned={turned}
              onTurn={setTurned}
              onKeep={() => {
                draft.edit(() => body);
                setTurned({});
              }}
            />
          ) : null}
          <OptionsPanel body={calm} result={draft.result} mayEdit={mayEdit} edit={draft.edit} />
        </div>
      </div>
      <footer className="mt-3 hidden flex-wrap items-center justify-between gap-4 text-[14px] text-soft md:flex">
        <span className="flex flex-wrap gap-4">
          <span>
            <Key>N</Key> type a step
          </span>
          <span>
            <Key>↑↓</Key> walk the river
          </span>
          <span>
            <Key>F</Key> flag
          </span>
          <span>
            <Key>W</Key> working
          </span>
          <span>
            <Key>Z</Key> close up
          </span>
        </span>
        <span>
          <span className="figures worked">40.6</span> worked out <span className="figures was-read ml-3">8.2</span> read with an instrument
        </span>
      </footer>
      <WorkingSheet asked={working} body={body} onClose={() => setWorking(null)} />
      <PublishSheet spec={spec} draft={draft} open={publishing} onClose={() => setPublishing(false)} />
    </main>
  );
}
