import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { MaterialPicker } from "../../../parts/MaterialPicker";
import { Empty, Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { useRegister } from "../../../parts/useRegister";
import { Keypad } from "../sheets/Keypad";
import { DROP_KEY } from "../sheets/WeighSheets";
import { CapturedRows } from "./CapturedRows";
import { type Captured, ComesOut, PourOver, VesselChoice } from "./CaptureSheets";
import { FIRST_VESSEL, keep, kept, type Row, vesselOf, vesselsOf } from "./captured";
import { SomethingDone } from "./SomethingDone";

/** For whoever never writes an amount: put the vessel on the scale, name what goes in, tare, pour, next; a draft comes out of it. */
export function CaptureView() {
  const go = useNavigate();
  const queries = useQueryClient();
  const dropper = useRegister("dropper")[0]?.figures.drop_ml;
  const [rows, setRows] = useState<Row[]>(kept);
  const [pouring, setPouring] = useState<{ key: string; name: string } | null>(null);
  const [name, setName] = useState("");
  const [byDrop, setByDrop] = useState(false);
  const [sheet, setSheet] = useState<"over" | "out" | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const vessels = vesselsOf(rows);
  const vessel = chosen ?? vesselOf(rows.at(-1)) ?? FIRST_VESSEL;
  const put = (next: Row[]) => {
    setRows(next);
    keep(next);
  };
  const start = useMutation({
    mutationFn: () => unwrap(client.POST("/api/capture/start", { body: { name, weighings: rows.map((row) => row.body) } })),
    onSuccess: (made) => {
      put([]);
      void queries.invalidateQueries({ queryKey: ["specs"] });
      void go(`/specs/${made.spec}`);
    },
  });
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
        <CapturedRows rows={rows} vessels={vessels} onDrop={(id) => put(rows.filter((item) => item.id !== id))} />
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
          <SomethingDone onDone={add} />
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
          const drop_ml = typed(localStorage.getItem(DROP_KEY) ?? "") ?? dropper;
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
