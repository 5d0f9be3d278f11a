import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { rowsOf } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { FileField } from "../../../parts/FileField";
import { More } from "../../../parts/More";
import { Notice, Trouble } from "../../../parts/Notice";
import { Sheet } from "../../../parts/Sheet";
import { day } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { NewMaterials } from "../NewMaterials";

type Read = Schemas["Understood"];
const WAYS = [
  { value: "frame", label: "A frame" },
  { value: "copy", label: "A copy" },
  { value: "paste", label: "A recipe" },
  { value: "file", label: "A file" },
  { value: "run", label: "A batch" },
  { value: "variant", label: "A variant" },
] as const;
type Way = (typeof WAYS)[number]["value"];
interface Given {
  family: string;
  school?: string;
  body?: Record<string, unknown>;
  variant_of?: string;
  name?: string;
}

/** Starts a spec in one of six ways; nothing is kept before what was understood has been seen. */
export function StartSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const go = useNavigate();
  const queries = useQueryClient();
  const [way, setWay] = useState<Way>("frame");
  const [name, setName] = useState("");
  const start = useMutation({
    mutationFn: (given: Given) => unwrap(client.POST("/api/specs", { body: { school: "", ...given, name: given.name ?? name } })),
    onSuccess: (made) => {
      void queries.invalidateQueries({ queryKey: ["specs"] });
      void go(`/specs/${made.id}`);
    },
  });
  const panels: Record<Way, React.ReactNode> = {
    frame: <FromFrame busy={start.isPending} onStart={(given) => start.mutate(given)} />,
    copy: <FromSpec busy={start.isPending} word="Copy it" onStart={start.mutate} onName={setName} />,
    paste: <FromText />,
    file: <FromFile busy={start.isPending} onStart={start.mutate} onName={setName} named={name} />,
    run: <FromRun busy={start.isPending} onStart={start.mutate} named={name} />,
    variant: <FromSpec busy={start.isPending} word="Start the variant" variant onStart={start.mutate} onName={setName} />,
  };
  return (
    <Sheet open={open} onClose={onClose} wide title="Start a spec" about="Begin from what you have. Nothing is kept before you see it.">
      <Field label="Name, as on the label" value={name} onChange={setName} autoFocus placeholder="Damson cordial" className="mb-4" />
      <Tabs.Root value={way} onValueChange={(next) => setWay(next as Way)}>
        <Tabs.List aria-label="Begin from" className="mb-4 flex flex-wrap gap-1 border-b border-rim">
          {WAYS.map((item) => (
            <Tabs.Trigger
              key={item.value}
              value={item.value}
              className="min-h-11 rounded-t-xl px-4 text-[15px] font-semibold text-soft data-[state=active]:bg-rim data-[state=active]:text-on-rim"
            >
              {item.label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {WAYS.map((item) => (
          <Tabs.Content key={item.value} value={item.value} className="grid gap-4">
            {panels[item.value]}
          </Tabs.Content>
        ))}
      </Tabs.Root>
      <div className="mt-4">
        <Trouble error={start.error} />
      </div>
    </Sheet>
  );
}

interface WayProps {
  busy: boolean;
  onStart: (given: Given) => void;
}

function FromFrame({ busy, onStart }: WayProps) {
  const families = useQuery(ask.words()).data?.families ?? [];
  const [family, setFamily] = useState("cordial");
  const [school, setSchool] = useState("");
  const schools = useQuery(ask.schools(family)).data ?? [];
  const chosen = schools.some((item) => item.school === school) ? school : (schools[0]?.school ?? "");
  return (
    <>
      <Choice label="Family" value={family} options={families.map(({ key, word }) => ({ value: key, label: word }))} onChange={setFamily} />
      <fieldset className="grid gap-2 sm:grid-cols-2">
        <legend className="mb-1 text-[14px] text-soft">
          {schools.length > 1 ? `Makers differ: ${schools[0]?.question}. Each school, with what it costs and gains` : "How it begins"}
        </legend>
        {schools.map((item) => (
          <label
            key={item.school}
            className={`flex min-h-11 gap-3 rounded-xl border p-3 ${item.school === chosen ? "border-rim bg-pick" : "border-line"}`}
          >
            <input
              type="radio"
              name="school"
              className="mt-1 size-5 shrink-0 accent-rim"
              checked={item.school === chosen}
              onChange={() => setSchool(item.school)}
            />
            <span>
              <b className="block">{item.school}</b>
              {item.gains ? <span className="block text-[14px]">gains: {item.gains}</span> : null}
              {item.costs ? <span className="block text-[14px] text-soft">costs: {item.costs}</span> : null}
            </span>
          </label>
        ))}
      </fieldset>
      <Button look="main" disabled={busy} onClick={() => onStart({ family, school: chosen })}>
        Start
      </Button>
    </>
  );
}

function FromSpec({
  busy,
  onStart,
  onName,
  word,
  variant = false,
}: WayProps & { word: string; variant?: boolean; onName: (name: string) => void }) {
  const [find, setFind] = useState("");
  const specs = useQuery(ask.library({ find, state: variant ? "published" : "" }));
  const [chosen, setChosen] = useState<Schemas["SpecRow"] | null>(null);
  const copy = useMutation({
    mutationFn: async (spec: Schemas["SpecRow"]) =>
      (await unwrap(client.GET("/api/specs/{spec_id}/draft", { params: { path: { spec_id: spec.id } } }))).body,
    onSuccess: (body, spec) => onStart({ family: spec.family, body: { ...body, id: "" } }),
  });
  return (
    <>
      <p className="text-[15px] text-soft">
        {variant
          ? "A variant keeps only what it changes. When its base gets a new version, the variant's draft follows in the rest."
          : "A copy goes its own way from here."}
      </p>
      <Field label="Which spec" value={find} onChange={setFind} placeholder="any word of it" />
      <ul className="max-h-56 overflow-auto">
        {(specs.data?.items ?? []).slice(0, 12).map((item) => (
          <li key={item.id}>
            <button
              type="button"
              aria-pressed={chosen?.id === item.id}
              onClick={() => {
                setChosen(item);
                onName(variant ? `${item.name}, strong` : `${item.name}, mine`);
              }}
              className={`flex min-h-11 w-full items-baseline justify-between gap-3 rounded-lg px-2 text-left ${chosen?.id === item.id ? "bg-pick font-bold" : "hover:bg-pick"}`}
            >
              {item.name}
              <span className="text-[14px] font-normal text-soft">{item.version ? `version ${item.version}` : "draft"}</span>
            </button>
          </li>
        ))}
      </ul>
      <Trouble error={copy.error} />
      <Button
        look="main"
        disabled={busy || copy.isPending || !chosen}
        onClick={() => chosen && (variant ? onStart({ family: chosen.family, variant_of: chosen.id }) : copy.mutate(chosen))}
      >
        {word}
      </Button>
    </>
  );
}

interface TextProps extends WayProps {
  onName: (name: string) => void;
  named: string;
}

/** A recipe in words has a place of its own, where its text stands beside what is taken from it. */
function FromText() {
  const go = useNavigate();
  return (
    <>
      <p className="text-[15px] text-soft">
        Paste it as it was written or said: a list, a paragraph, a message. It is worked out at once, beside its own words.
      </p>
      <Button look="main" onClick={() => void go("/specs/read")}>
        Read a recipe
      </Button>
    </>
  );
}

function FromFile({ busy, onStart, onName, named }: TextProps) {
  const { locale } = useSession();
  const go = useNavigate();
  const [fault, setFault] = useState<string>();
  const read = useMutation({
    mutationFn: (text: string) => unwrap(client.POST("/api/read-many", { body: { text, locale } })),
    onSuccess: (found, text) => {
      const name = String(found[0]?.read?.body.name ?? "");
      if (found.length > 1) void go("/specs/read", { state: { text } });
      else if (!named) onName(name);
    },
  });
  const take = async (file: File) => {
    setFault(undefined);
    if (file.size > 1_000_000) {
      setFault(`${file.name} holds ${Math.round(file.size / 1e6)} MB; a spec file is at most 1 MB. Export one spec at a time.`);
      return;
    }
    read.mutate(await file.text());
  };
  const understood = read.data?.length === 1 ? read.data[0]?.read : null;
  return (
    <>
      <FileField
        label="An Ulsek spec file, recipes in JSON-LD or in a saved page, or a table of recipes in CSV"
        accept=".json,.jsonld,.html,.htm,.txt,.md,.csv"
        onFile={(file) => void take(file)}
      />
      {fault ? (
        <Notice severity="stop" live>
          {fault}
        </Notice>
      ) : null}
      <Trouble error={read.error} />
      {understood ? <Understood read={understood} busy={busy} onStart={onStart} /> : null}
    </>
  );
}

/** What was understood of a text and what not, before anything is kept. */
function Understood({ read, busy, onStart }: { read: Read } & WayProps) {
  return (
    <section aria-label="What was understood" className="grid gap-2 rounded-xl bg-quiet p-4">
      <p>
        Read as a <b>{read.kind}</b>: {read.understood.join(", ")}.
      </p>
      {read.not_understood.map((text) => (
        <Notice key={text} severity="check">
          Not understood: {text}
        </Notice>
      ))}
      <NewMaterials read={read} body={read.body} />
      {read.doubts.length ? (
        <p className="text-[14px] text-soft">{read.doubts.length} doubtful readings; each stands again at its step:</p>
      ) : null}
      <ul className="grid max-h-60 gap-2 overflow-auto">
        {read.doubts.map((doubt) => (
          <li key={`${doubt.line}-${doubt.code}-${doubt.question}`}>
            <Notice severity="check">
              <q>{doubt.text}</q> {doubt.question}
            </Notice>
          </li>
        ))}
      </ul>
      <Button
        look="main"
        disabled={busy}
        onClick={() => onStart({ family: String(read.body.family ?? "other"), body: read.body as Record<string, unknown> })}
      >
        Start from this
      </Button>
    </section>
  );
}

function FromRun({ busy, onStart, named }: WayProps & { named: string }) {
  const { zone } = useSession();
  const runs = useInfiniteQuery(ask.runSlices());
  const draft = useMutation({
    mutationFn: (id: string) =>
      unwrap(client.GET("/api/runs/{run_id}/draft", { params: { path: { run_id: id }, query: { name: named || "From a batch" } } })),
    onSuccess: (found) => onStart({ family: "other", body: found.spec as Record<string, unknown>, name: named || "From a batch" }),
  });
  return (
    <>
      <p className="text-[15px] text-soft">What was really weighed, in its order, becomes a draft: for whoever never writes an amount.</p>
      <ul className="max-h-64 overflow-auto">
        {rowsOf(runs.data).map((run) => (
          <li key={run.id}>
            <button
              type="button"
              disabled={busy || draft.isPending}
              onClick={() => draft.mutate(run.id)}
              className="flex min-h-11 w-full items-baseline justify-between gap-3 rounded-lg px-2 text-left hover:bg-pick"
            >
              <b>{run.name}</b>
              <span className="text-[14px] text-soft">
                {run.code} · {day(run.started_at, zone)} · {run.started_by}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <More list={runs} />
      <Trouble error={draft.error} />
    </>
  );
}
