import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { client, type Schemas, type SpecFile, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Notice, Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";
import { fromHereOr } from "../../../sync/core";
import { InTheBottle } from "../workbench/InTheBottle";
import { type WorkingAsked, WorkingSheet } from "../workbench/WorkingSheet";
import { PasteForm } from "./PasteForm";
import { TakenSteps } from "./TakenSteps";
import { Told } from "./Told";
import { WrittenText } from "./WrittenText";

type Read = Schemas["Understood"];

/** A recipe as somebody wrote or said it, beside what Ulsek takes from it. Nothing is kept before it is taken to the workbench. */
export function ReaderView() {
  const given = (useLocation().state as { text?: string } | null)?.text ?? "";
  const { locale } = useSession();
  const [text, setText] = useState(given);
  const read = useMutation({ mutationFn: (written: string) => unwrap(client.POST("/api/read", { body: { text: written, locale } })) });
  if (!read.data) {
    return <PasteForm text={text} onText={setText} busy={read.isPending} error={read.error} onRead={() => read.mutate(text)} />;
  }
  return <Reading key={read.submittedAt} read={read.data} onAgain={() => read.reset()} />;
}

const dominant = (bands: Schemas["Bands"]) =>
  (Object.entries(bands) as [string, number][]).reduce((best, next) => (next[1] > best[1] ? next : best), ["", 0])[0];

function Reading({ read, onAgain }: { read: Read; onAgain: () => void }) {
  const go = useNavigate();
  const queries = useQueryClient();
  const families = useQuery(ask.words()).data?.families ?? [];
  const [body, setBody] = useState(read.body as unknown as SpecFile);
  const [chosen, setChosen] = useState("");
  const [working, setWorking] = useState<WorkingAsked | null>(null);
  const shown = useQuery({
    queryKey: ["read-draft", body],
    queryFn: () => fromHereOr(() => unwrap(client.POST("/api/read-draft", { body: { spec: body } })), "read_draft", body),
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const answer = useMutation({
    mutationFn: ([position, chosenAnswer]: [number, number]) =>
      fromHereOr(
        () => unwrap(client.POST("/api/answered", { body: { spec: body, position, answer: chosenAnswer } })),
        "answered",
        body,
        position,
        chosenAnswer,
      ),
    onSuccess: (found) => setBody(found.spec as unknown as SpecFile),
  });
  const take = useMutation({
    mutationFn: () =>
      unwrap(client.POST("/api/specs", { body: { family: body.family ?? "other", school: "", name: body.name, body: { ...body } } })),
    onSuccess: (made) => {
      void queries.invalidateQueries({ queryKey: ["specs"] });
      void go(`/specs/${made.id}`);
    },
  });
  const settle = (position: number) => setBody((now) => ({ ...now, doubts: (now.doubts ?? []).filter((_, at) => at !== position) }));
  const data = shown.data;
  const final = data?.workbench.final ?? null;
  const now = { brix: final?.brix.value ?? 0, acid: final?.acid_g_100ml.value ?? 0, volume: final?.volume_ml.value ?? 0 };
  const lines = (data?.workbench.steps ?? []).flatMap((step) => step.added);
  const bands = Object.fromEntries(lines.map((line) => [line.line, dominant(line.bands)]));
  const names = data?.workbench.words.names ?? {};
  const said = {
    ...Object.fromEntries(lines.map((line) => [line.line, names[line.material] ?? ""])),
    ...(data?.workbench.words.steps ?? {}),
  };
  const open = data?.questions.length ?? 0;
  const last = data?.workbench.steps.at(-1)?.id ?? "";
  const family = families.find((item) => item.key === body.family)?.word.toLowerCase();
  return (
    <main className="mx-auto max-w-[1400px] p-3 md:px-5 md:py-3">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <div className="min-w-0">
          <h1 className="sr-only">{body.name}</h1>
          <label>
            <span className="sr-only">Name, as on the label</span>
            <input
              value={body.name}
              onChange={(event) => setBody({ ...body, name: event.target.value })}
              className="w-full max-w-[560px] rounded-lg border border-transparent bg-transparent font-head text-[30px] leading-tight font-bold hover:border-line focus:border-rim"
            />
          </label>
          <p className="text-[15px] text-soft">read from your text{family ? ` · ${family}` : ""} · nothing is kept yet</p>
        </div>
        <div className="flex flex-wrap items-center gap-3">
          <p className="text-[15px] text-soft" role="status">
            {open === 0 ? "No question left" : `${open} ${open === 1 ? "question" : "questions"} left`}
          </p>
          <Button onClick={onAgain}>Another text</Button>
          <Button look="main" disabled={take.isPending || !body.name.trim()} onClick={() => take.mutate()}>
            Take it to the workbench
          </Button>
        </div>
      </div>
      <Trouble error={shown.error ?? answer.error ?? take.error} />
      {read.not_understood.map((missed) => (
        <Notice key={missed} severity="check">
          Not understood: {missed}
        </Notice>
      ))}
      <div className="grid items-start gap-3.5 lg:grid-cols-[minmax(0,390px)_minmax(0,1fr)_310px]">
        <WrittenText text={body.note ?? ""} phrases={read.phrases} bands={bands} said={said} chosen={chosen} onChoose={setChosen} />
        {data ? (
          <TakenSteps
            body={body}
            read={data}
            now={now}
            chosen={chosen}
            busy={answer.isPending || shown.isPlaceholderData}
            onChoose={setChosen}
            onAnswer={(position, chosenAnswer) => answer.mutate([position, chosenAnswer])}
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
          {data ? <Told claims={data.told} /> : null}
        </div>
      </div>
      <WorkingSheet asked={working} body={body} onClose={() => setWorking(null)} />
    </main>
  );
}
