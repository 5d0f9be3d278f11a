import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, told } from "../../api/client";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Field } from "../../parts/Field";
import { Empty, Trouble } from "../../parts/Notice";
import { figure, GAP, typed } from "../../parts/say";
import { MaterialPicker } from "../specs/MaterialPicker";
import { Keypad } from "./Keypad";

interface Weighing {
  id: string;
  name: string;
  body: Record<string, unknown>;
}
const KEPT = "ulsek.capture";
const NOTHING = "nothing";

function kept(): Weighing[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(KEPT) ?? "[]");
    return Array.isArray(found) ? (found as Weighing[]) : [];
  } catch {
    return [];
  }
}

/** For whoever never writes an amount: put the vessel on the scale, name what goes in, tare, pour, next; a draft comes out of it. */
export function CaptureView() {
  const go = useNavigate();
  const queries = useQueryClient();
  const verbs = useQuery(ask.words()).data?.verbs ?? [];
  const [rows, setRows] = useState(kept);
  const [pouring, setPouring] = useState<{ key: string; name: string } | null>(null);
  const [verb, setVerb] = useState(NOTHING);
  const [minutes, setMinutes] = useState("");
  const [name, setName] = useState("");
  const put = (next: Weighing[]) => {
    setRows(next);
    localStorage.setItem(KEPT, JSON.stringify(next));
  };
  const start = useMutation({
    mutationFn: () => told(client.POST("/api/capture/start", { body: { name, weighings: rows.map((row) => row.body) } })),
    onSuccess: (made) => {
      put([]);
      void queries.invalidateQueries({ queryKey: ["specs"] });
      void go(`/specs/${made.spec}`);
    },
  });
  const does = verbs.find((item) => item.verb === verb);
  const timed = does?.params.some((param) => param.name === "minutes") ?? false;
  const add = (row: Omit<Weighing, "id">) => put([...rows, { ...row, id: crypto.randomUUID() }]);
  return (
    <main className="mx-auto max-w-[900px] p-4 md:p-5">
      <h1 className="text-[32px]">Capture</h1>
      <p className="mb-3 text-[18px] text-soft">Put the vessel on the scale. Name it, tare, pour, next. What you did becomes a draft.</p>
      <section className="tray mb-4 p-5" aria-labelledby="went-in">
        <h2 id="went-in" className="sr-only">
          What went in
        </h2>
        {rows.length === 0 ? (
          <Empty title="Nothing yet">The first thing that is poured sets the batch; everything after is measured against it.</Empty>
        ) : null}
        <ol className="grid gap-1">
          {rows.map((row, place) => (
            <li key={row.id} className="grid min-h-16 grid-cols-[40px_1fr_auto_auto] items-center gap-3 border-b border-line text-[20px]">
              <span className="figures text-right font-bold text-soft">{place + 1}</span>
              <b>{row.name}</b>
              <span className="figures text-[22px] font-bold">
                {row.body.mass_g === undefined ? "" : `${figure(Number(row.body.mass_g))}${GAP}g`}
              </span>
              <Button look="quiet" onClick={() => put(rows.filter((item) => item.id !== row.id))} aria-label={`Take back ${row.name}`}>
                Take back
              </Button>
            </li>
          ))}
        </ol>
        <div className="mt-4 flex flex-wrap items-end gap-3">
          <MaterialPicker size="bench" label="Something goes in" onPick={(key, called) => setPouring({ key, name: called })} />
          <Choice
            label="Something is done"
            value={verb}
            options={[
              { value: NOTHING, label: "something is done …" },
              ...verbs.map((item) => ({ value: item.verb, label: item.word, group: item.family_word })),
            ]}
            onChange={setVerb}
          />
          {timed ? <Field label="for" unit="min" inputMode="decimal" className="w-32" value={minutes} onChange={setMinutes} /> : null}
          {does ? (
            <Button
              size="bench"
              onClick={() => {
                const time = typed(minutes);
                add({ name: does.word, body: { verb: does.verb, ...(timed && time !== null ? { minutes: time } : {}) } });
                setVerb(NOTHING);
                setMinutes("");
              }}
            >
              Write it down
            </Button>
          ) : null}
        </div>
      </section>
      {rows.length ? (
        <form
          className="tray flex flex-wrap items-end gap-3 p-5"
          onSubmit={(event) => {
            event.preventDefault();
            start.mutate();
          }}
        >
          <Field label="What it is called" value={name} onChange={setName} className="min-w-60 flex-1" />
          <Button look="main" size="bench" type="submit" disabled={start.isPending}>
            Make a draft of it
          </Button>
          <div className="w-full">
            <Trouble error={start.error} />
          </div>
        </form>
      ) : null}
      <Keypad
        open={pouring !== null}
        title={pouring?.name ?? ""}
        about="Tared before it was poured."
        label="What the scale shows"
        unit="g"
        keepAs={`capture.${pouring?.key}`}
        onClose={() => setPouring(null)}
        onDone={(mass_g) => {
          if (pouring) add({ name: pouring.name, body: { material: pouring.key, mass_g } });
          setPouring(null);
        }}
      />
    </main>
  );
}
