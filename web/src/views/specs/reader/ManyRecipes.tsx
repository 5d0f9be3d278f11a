import { keepPreviousData, useMutation, useQueries, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas, SpecFile } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import { toTake } from "./many";
import { Reading } from "./Reading";
import { readDraft } from "./readDraft";
import { SharedQuestions } from "./SharedQuestions";
import { startRead } from "./startRead";

type Part = Schemas["ReadPart"];

export interface ManyRecipesProps {
  parts: readonly Part[];
  onAgain: () => void;
  /** Reads the whole text as one recipe instead; not for an archive, whose specs stand apart. */
  onAsOne?: () => void;
  error: Error | null;
}

/** Several recipes of one text: each with its figures, their open questions as one list, and all taken together. */
export function ManyRecipes({ parts, onAgain, onAsOne, error }: ManyRecipesProps) {
  const queries = useQueryClient();
  const read = parts.flatMap((part, place) => (part.read ? [{ ...part.read, key: `recipe-${place}` }] : []));
  const refused = parts.filter((part) => !part.read);
  const [bodies, setBodies] = useState(() => read.map((part) => part.body));
  const [left, setLeft] = useState<readonly number[]>([]);
  const [taken, setTaken] = useState<Readonly<Record<number, string>>>({});
  const [open, setOpen] = useState<number | null>(null);
  const shown = useQueries({
    queries: bodies.map((body) => ({ ...readDraft(body), placeholderData: keepPreviousData })),
  });
  const wanted = toTake(bodies, left, taken);
  const take = useMutation({
    mutationFn: async () => {
      // One after the other: what was kept stays kept when a later one is refused.
      for (const at of wanted) {
        const made = await startRead(bodies[at] as SpecFile);
        setTaken((now) => ({ ...now, [at]: made.id }));
      }
    },
    onSettled: () => void queries.invalidateQueries({ queryKey: ["specs"] }),
  });
  const put = (at: number, body: SpecFile) => setBodies((now) => now.map((item, n) => (n === at ? body : item)));
  const [chosen, body] = [open === null ? undefined : read[open], open === null ? undefined : bodies[open]];
  if (open !== null && chosen && body) {
    return (
      <Reading
        key={open}
        read={chosen}
        body={body}
        onBody={(next) => put(open, next)}
        back={`All ${parts.length} recipes`}
        onBack={() => setOpen(null)}
      />
    );
  }
  return (
    <main className="mx-auto max-w-[1400px] p-3 md:px-5 md:py-3">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <div>
          <h1 className="text-[30px]">{onAsOne ? `${parts.length} recipes in this text` : `${parts.length} specs in this archive`}</h1>
          <p className="text-[15px] text-soft">
            {Object.keys(taken).length ? "What was taken is a draft in Specs." : "Each is worked out as it stands; nothing is kept yet."}
          </p>
        </div>
        <div className="flex flex-wrap gap-3">
          <Button onClick={onAgain}>Another text</Button>
          {onAsOne ? <Button onClick={onAsOne}>It is one recipe</Button> : null}
          <Button look="main" disabled={take.isPending || wanted.length === 0} onClick={() => take.mutate()}>
            {wanted.length === 1 ? "Take 1 recipe" : `Take ${wanted.length} recipes`}
          </Button>
        </div>
      </div>
      <Trouble error={take.error ?? error} />
      <div className="grid items-start gap-3.5 lg:grid-cols-[minmax(0,1fr)_minmax(0,430px)]">
        <section className="tray p-4" aria-label="The recipes">
          <ul>
            {read.map(({ key, body: first }, at) => {
              const draft = bodies[at] ?? first;
              return (
                <li key={key} className="border-b border-line py-2 last:border-0">
                  <Row
                    body={draft}
                    data={shown[at]?.data}
                    taken={taken[at]}
                    wanted={!left.includes(at)}
                    onWanted={(yes) => setLeft((now) => (yes ? now.filter((item) => item !== at) : [...now, at]))}
                    onName={(name) => put(at, { ...draft, name })}
                    onOpen={() => setOpen(at)}
                  />
                </li>
              );
            })}
            {refused.map((part) => (
              <li key={part.text} className="border-b border-line py-3 last:border-0">
                <p className="font-bold text-warn">Not read: {part.refused}</p>
                <p className="line-clamp-3 text-[15px] whitespace-pre-wrap text-soft">{part.text}</p>
              </li>
            ))}
          </ul>
        </section>
        <SharedQuestions bodies={bodies} onBodies={setBodies} />
      </div>
    </main>
  );
}

interface RowProps {
  body: SpecFile;
  data: Schemas["ReadDraft"] | undefined;
  /** The spec that it was kept as. */
  taken: string | undefined;
  wanted: boolean;
  onWanted: (wanted: boolean) => void;
  onName: (name: string) => void;
  onOpen: () => void;
}

/** One of the recipes: whether it is taken, its name, what comes out of it, and what is still open. */
function Row({ body, data, taken, wanted, onWanted, onName, onOpen }: RowProps) {
  const final = data?.workbench.final;
  const questions = body.doubts?.length ?? 0;
  return (
    <div className="grid grid-cols-[44px_minmax(0,1fr)] items-center gap-x-2 md:grid-cols-[44px_minmax(0,1fr)_17rem_auto]">
      <label className="grid min-h-11 place-items-center">
        <span className="sr-only">Take {body.name}</span>
        <input
          type="checkbox"
          className="size-5 accent-rim"
          checked={wanted || taken !== undefined}
          disabled={taken !== undefined}
          onChange={(event) => onWanted(event.target.checked)}
        />
      </label>
      <label className="min-w-0">
        <span className="sr-only">Name, as on the label</span>
        <input
          value={body.name}
          disabled={taken !== undefined}
          onChange={(event) => onName(event.target.value)}
          className="min-h-11 w-full rounded-lg border border-transparent bg-transparent text-[17px] font-bold hover:border-line focus:border-rim"
        />
      </label>
      <div className="col-start-2 text-[15px] md:col-start-3 md:text-right">
        {final ? (
          <p className="figures">
            <b>{figure(final.volume_ml.value)}</b>
            <span className="text-soft">{GAP}mL</span> · <b>{figure(final.brix.value, 1)}</b>
            <span className="text-soft">{GAP}°Bx</span>
          </p>
        ) : null}
        <p className={`text-[14px] ${questions ? "font-semibold text-warn" : "text-soft"}`}>
          {questions === 0 ? "nothing asked" : `${questions} ${questions === 1 ? "question" : "questions"}`}
        </p>
      </div>
      <div className="col-start-2 md:col-start-4">
        {taken === undefined ? (
          <Button onClick={onOpen} aria-label={`Look at ${body.name}`}>
            Look at it
          </Button>
        ) : (
          <Link to={`/specs/${taken}`} className="inline-flex min-h-11 items-center px-2 font-semibold text-rim underline">
            Open the draft
          </Link>
        )}
      </div>
    </div>
  );
}
