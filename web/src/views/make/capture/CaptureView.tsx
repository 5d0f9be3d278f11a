import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { MaterialPicker } from "../../../parts/MaterialPicker";
import { Empty, Trouble } from "../../../parts/Notice";
import { figure, GAP, typed } from "../../../parts/numbers";
import { Keypad } from "../sheets/Keypad";
import { DROP_KEY } from "../sheets/WeighSheets";
import { type Captured, ComesOut, PourOver, VesselChoice } from "./CaptureSheets";

interface Row extends Captured {
  id: string;
}
const FIRST_VESSEL = "pot";
const KEPT = "ulsek.capture";
const NOTHING = "nothing";

function kept(): Row[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(KEPT) ?? "[]");
    return Array.isArray(found) ? (found as Row[]) : [];
  } catch {
    return [];
  }
}

const vesselOf = (row: Row | undefined) => (typeof row?.body.vessel === "string" ? row.body.vessel : undefined);

function howMuch({ body }: Row): string {
  if (body.mass_g !== undefined && body.verb !== "split") return `${figure(Number(body.mass_g))}${GAP}g`;
  return body.drops === undefined ? "" : `${Number(body.drops)} drops`;
}

/** For whoever never writes an amount: put the vessel on the scale, name what goes in, tare, pour, next; a draft comes out of it. */
export function CaptureView() {
  const go = useNavigate();
  const queries = useQueryClient();
  const verbs = useQuery(ask.words()).data?.verbs ?? [];
  const [rows, setRows] = useState<Row[]>(kept);
  const [pouring, setPouring] = useState<{ key: string; name: string } | null>(null);
  const [verb, setVerb] = useState(NOTHING);
  const [minutes, setMinutes] = useState("");
  const [name, setName] = useState("");
  const [byDrop, setByDrop] = useState(false);
  const [sheet, setSheet] = useState<"over" | "out" | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const vessels = [...new Set([FIRST_VESSEL, ...rows.flatMap((row) => (typeof row.body.vessel === "string" ? [row.body.vessel] : []))])];
  const vessel = chosen ?? vesselOf(rows.at(-1)) ?? FIRST_VESSEL;
  const put = (next: Row[]) => {
    setRows(next);
    localStorage.setItem(KEPT, JSON.stringify(next));
  };
  const start = useMutation({
    mutationFn: () => unwrap(client.POST("/api/capture/start", { body: { name, weighings: rows.map((row) => row.body) } })),
    onSuccess: (made) => {
      put([]);
      void queries.invalidateQueries({ queryKey: ["specs"] });
      void go(`/specs/${made.spec}`);
    },
  });
  const does = verbs.find((item) => item.verb === verb);
  const timed = does?.params.some((param) => param.name === "minutes") ?? false;
  const unread = minutes.trim() !== "" && typed(minutes) === null;
  const add = ({ name: called, body }: Captured) => {
    put([...rows, { name: called, body: { vessel, ...body }, id: crypto.randomUUID() }]);
    setSheet(null);
    setChosen(null);
  };
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
              <span>
                <b>{row.name}</b>
                {vessels.length > 1 && row.body.from === undefined ? (
                  <span className="block text-[18px] text-soft">in the {vesselOf(row) ?? FIRST_VESSEL}</span>
                ) : null}
              </span>
              <span className="figures text-[22px] font-bold">{howMuch(row)}</span>
              <Button look="quiet" onClick={() => put(rows.filter((item) => item.id !== row.id))} aria-label={`Take back ${row.name}`}>
                Take back
              </Button>
            </li>
          ))}
        </ol>
        <div className="mt-4 flex flex-wrap items-end gap-3">
          <VesselChoice label="Vessel" vessels={vessels} value={vessel} onChange={setChosen} />
          <MaterialPicker size="bench" label="Something goes in" onPick={(key, called) => setPouring({ key, name: called })} />
          {rows.length ? (
            <>
              <Button size="bench" onClick={() => setSheet("over")}>
                Pour it over
              </Button>
              <Button size="bench" onClick={() => setSheet("out")}>
                Something comes out
              </Button>
            </>
          ) : null}
          <Choice
            size="bench"
            label="Something is done"
            value={verb}
            options={[
              { value: NOTHING, label: "something is done …" },
              ...verbs.map((item) => ({ value: item.verb, label: item.word, group: item.family_word })),
            ]}
            onChange={setVerb}
          />
          {timed ? (
            <Field
              label="for"
              unit="min"
              inputMode="decimal"
              className="w-32"
              value={minutes}
              onChange={setMinutes}
              fault={unread ? "Write figures, such as 25." : undefined}
            />
          ) : null}
          {does ? (
            <Button
              size="bench"
              onClick={() => {
                if (unread) return;
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
      {sheet === "over" ? <PourOver vessel={vessel} vessels={vessels} onClose={() => setSheet(null)} onDone={add} /> : null}
      {sheet === "out" ? <ComesOut vessel={vessel} vessels={vessels} onClose={() => setSheet(null)} onDone={add} /> : null}
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
        label={byDrop ? "How many drops" : "What the scale shows"}
        unit={byDrop ? "drops" : "g"}
        keepAs={`capture.${pouring?.key}.${byDrop}`}
        onClose={() => setPouring(null)}
        onDone={(value) => {
          const drop_ml = typed(localStorage.getItem(DROP_KEY) ?? "");
          const amount = byDrop ? { drops: value, ...(drop_ml ? { drop_ml } : {}) } : { mass_g: value };
          if (pouring) add({ name: pouring.name, body: { material: pouring.key, ...amount } });
          setPouring(null);
          setByDrop(false);
        }}
      >
        {[false, true].map((drops) => (
          <Button
            key={String(drops)}
            look={drops === byDrop ? "main" : "plain"}
            aria-pressed={drops === byDrop}
            onClick={() => setByDrop(drops)}
          >
            {drops ? "drops" : "grams"}
          </Button>
        ))}
      </Keypad>
    </main>
  );
}
