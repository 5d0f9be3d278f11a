import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, type SpecFile, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Notice, Trouble } from "../../../parts/Notice";
import { fromHereOr } from "../../../sync/core";
import { NewMaterials } from "../NewMaterials";
import { useShelf } from "../shelf";
import { Told } from "../Told";
import { InTheBottle } from "../workbench/InTheBottle";
import { type WorkingAsked, WorkingSheet } from "../workbench/WorkingSheet";
import type { Phrase, Piece } from "./marks";
import { readDraft } from "./readDraft";
import { TakenSteps } from "./TakenSteps";
import { WrittenText } from "./WrittenText";

const dominant = (bands: Schemas["Bands"]) =>
  (Object.entries(bands) as [string, number][]).reduce((best, next) => (next[1] > best[1] ? next : best), ["", 0])[0];

export interface ReadingProps {
  read: Schemas["Understood"];
  body: SpecFile;
  onBody: (body: SpecFile) => void;
  /** Where the button beside the open questions leads. */
  back: string;
  onBack: () => void;
  /** What takes the draft to the workbench; nothing where several are taken together. */
  onTake?: () => void;
  busy?: boolean;
  error?: Error | null;
}

/** One recipe: its text beside what is taken from it, the river, and what comes out of it. */
export function Reading({ read, body, onBody, back, onBack, onTake, busy = false, error = null }: ReadingProps) {
  const families = useQuery(ask.words()).data?.families ?? [];
  const [chosen, setChosen] = useState("");
  const [working, setWorking] = useState<WorkingAsked | null>(null);
  // The phrase that is being given to a step, and those that were.
  const [giving, setGiving] = useState<Piece | null>(null);
  const [given, setGiven] = useState<readonly Phrase[]>([]);
  const shelf = useShelf();
  const shown = useQuery({ ...readDraft(body), placeholderData: (before) => before });
  const answer = useMutation({
    mutationFn: ([position, chosenAnswer]: [number, number]) =>
      fromHereOr(
        () => unwrap(client.POST("/api/answered", { body: { spec: body, position, answer: chosenAnswer } })),
        "answered",
        body,
        position,
        chosenAnswer,
      ),
    onSuccess: (found) => onBody(found.spec),
  });
  const give = useMutation({
    mutationFn: ([piece, step]: [Piece, string]) =>
      unwrap(client.POST("/api/given", { body: { spec: body, start: piece.start, end: piece.start + piece.text.length, step } })),
    onSuccess: (found) => {
      setGiving(null);
      setGiven([...given, ...found.phrases]);
      onBody(found.spec);
    },
  });
  const settle = (position: number) => onBody({ ...body, doubts: (body.doubts ?? []).filter((_, at) => at !== position) });
  const data = shown.data;
  const final = data?.workbench.final ?? null;
  const lines = (data?.workbench.steps ?? []).flatMap((step) => step.added);
  const bands = Object.fromEntries(lines.map((line) => [line.line, dominant(line.bands)]));
  const names = data?.workbench.words.names ?? {};
  const said = {
    ...Object.fromEntries(lines.map((line) => [line.line, names[line.material] ?? ""])),
    ...(data?.workbench.words.steps ?? {}),
  };
  const open = data?.questions.length ?? 0;
  // A spec file has no words that something was taken from.
  const words = read.kind !== "spec file";
  const last = data?.workbench.steps.at(-1)?.id ?? "";
  const family = families.find((item) => item.key === body.family)?.word.toLowerCase();
  return (
    <main className="mx-auto max-w-[1400px] p-3 md:px-5 md:py-3">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <div className="min-w-0 grow basis-72">
          <h1 className="sr-only">{body.name}</h1>
          <label>
            <span className="sr-only">Name, as on the label</span>
            <input
              value={body.name}
              onChange={(event) => onBody({ ...body, name: event.target.value })}
              className="w-full max-w-[560px] rounded-lg border border-transparent bg-transparent font-head text-[24px] leading-tight font-bold hover:border-line focus:border-rim sm:text-[30px]"
            />
          </label>
          <p className="text-[15px] text-soft">read from your text{family ? ` · ${family}` : ""} · nothing is kept yet</p>
        </div>
        <div className="flex flex-wrap items-center gap-3">
          <p className="text-[15px] text-soft" role="status">
            {open === 0 ? "No question left" : `${open} ${open === 1 ? "question" : "questions"} left`}
          </p>
          <Button onClick={onBack}>{back}</Button>
          {onTake ? (
            <Button look="main" disabled={busy || !body.name.trim()} onClick={onTake}>
              Take it to the workbench
            </Button>
          ) : null}
        </div>
      </div>
      <Trouble error={shown.error ?? answer.error ?? give.error ?? shelf.error ?? error} />
      {read.not_understood.map((missed) => (
        <Notice key={missed} severity="check">
          Not understood: {missed}
        </Notice>
      ))}
      <NewMaterials read={read} body={body} />
      <div
        className={`grid items-start gap-3.5 ${words ? "lg:grid-cols-[minmax(0,390px)_minmax(0,1fr)_310px]" : "lg:grid-cols-[minmax(0,1fr)_310px]"}`}
      >
        {words ? (
          <WrittenText
            text={body.note ?? ""}
            phrases={[...read.phrases, ...given]}
            bands={bands}
            said={said}
            chosen={chosen}
            onChoose={setChosen}
            giving={giving}
            onGive={setGiving}
          />
        ) : null}
        {data ? (
          <TakenSteps
            body={body}
            read={data}
            chosen={chosen}
            busy={answer.isPending || give.isPending || shown.isPlaceholderData}
            giving={giving?.text ?? ""}
            onGive={(step) => giving && give.mutate([giving, step])}
            onChoose={setChosen}
            onAnswer={(position, chosenAnswer) => {
              const asked = data.questions.find((question) => question.position === position);
              shelf.answered(asked?.code ?? "", asked?.answers[chosenAnswer]?.word ?? "");
              answer.mutate([position, chosenAnswer]);
            }}
            onSettle={settle}
          />
        ) : null}
        <div className="grid gap-3.5">
          <InTheBottle
            final={final}
            drink={body.family === "drink"}
            serveCost={data?.workbench.serve_cost ?? null}
            onWorking={(name) => last && setWorking({ step: last, name })}
          />
          {data ? <Told claims={data.workbench.told ?? []} /> : null}
        </div>
      </div>
      <WorkingSheet asked={working} body={body} onClose={() => setWorking(null)} />
    </main>
  );
}
