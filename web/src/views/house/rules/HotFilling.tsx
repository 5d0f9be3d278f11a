import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { GAP, typed } from "../../../parts/numbers";
import { FormEnd } from "./FormEnd";
import { UNSAID } from "./rules";
import { useKeptSheet } from "./useKeptSheet";

type Procedure = Schemas["ProcedureRow"];
const FIGURES = [
  { name: "fill_c", label: "Filled at, at least", unit: "°C" },
  { name: "hold_min", label: "Held there", unit: "min" },
  { name: "most_ph", label: "pH at most", unit: "" },
  { name: "days", label: "Keeps, closed", unit: "d" },
] as const;
const WORDS = [
  { name: "cap", label: "Cap, such as metal with a liner" },
  { name: "glass", label: "Glass, such as made for heat" },
  { name: "authority", label: "Your authority's word, such as a letter and its day" },
  { name: "source", label: "Where that comes from" },
] as const;
const BLANK: Readonly<Record<string, string>> = {
  name: "",
  fill_c: "",
  hold_min: "",
  most_ph: "",
  days: "",
  cap: "",
  glass: "",
  authority: "",
  source: "",
};

/** Procedures of hot filling: none ships, and each takes an authority's word. */
export function HotFilling({ procedures }: { procedures: readonly Procedure[] }) {
  const [open, setOpen] = useState<string | null>(null);
  const settled = useKeptSheet();
  const drop = useMutation({
    mutationFn: (key: string) => unwrap(client.POST("/api/rules/one/drop", { body: { table: "procedures", key } })),
    onSuccess: settled,
  });
  return (
    <section className="tray p-5" aria-label="Hot filling">
      <div className="flex items-center justify-between gap-3">
        <h2 className="text-[20px]">Hot filling</h2>
        {open === null ? (
          <Button look="quiet" onClick={() => setOpen("")} aria-label="Hot filling: add a procedure">
            Add one
          </Button>
        ) : null}
      </div>
      <p className="mb-2 text-soft">
        None ships: a bottle that is filled hot counts as kept only by a procedure that your own authority has approved, and only where the
        run shows that it was followed.
      </p>
      <ul>
        {procedures.map((item) =>
          open === item.name ? (
            <li key={item.name}>
              <ProcedureForm item={item} onDone={() => setOpen(null)} />
            </li>
          ) : (
            <li key={item.name} className="flex flex-wrap items-start justify-between gap-3 border-t border-line py-3">
              <div className="min-w-0 flex-1 basis-64">
                <p className="text-[17px] font-bold">{item.name}</p>
                <p className="text-[15px]">
                  {FIGURES.map(({ name, label, unit }) => `${label.toLowerCase()} ${item[name]}${unit ? GAP + unit : ""}`).join(", ")}
                </p>
                <p className="text-[14px] text-soft">
                  {item.cap} · {item.glass} · {item.authority} · {item.source} · {item.dated}
                </p>
              </div>
              <div className="flex flex-wrap gap-1">
                <Button look="quiet" onClick={() => setOpen(item.name)} aria-label={`Change ${item.name}`}>
                  Change
                </Button>
                <Button look="quiet" disabled={drop.isPending} onClick={() => drop.mutate(item.name)} aria-label={`Without ${item.name}`}>
                  Take off
                </Button>
              </div>
            </li>
          ),
        )}
      </ul>
      <Trouble error={drop.error} />
      {open === "" ? <ProcedureForm onDone={() => setOpen(null)} /> : null}
    </section>
  );
}

function ProcedureForm({ item, onDone }: { item?: Procedure; onDone: () => void }) {
  const settled = useKeptSheet();
  const [written, setWritten] = useState(() =>
    item ? Object.fromEntries(Object.keys(BLANK).map((name) => [name, String(item[name as keyof Procedure])])) : BLANK,
  );
  const [fault, setFault] = useState<Readonly<Record<string, string>>>({});
  const keep = useMutation({
    mutationFn: (figures: Record<string, number>) => {
      const said = Object.fromEntries(WORDS.map(({ name }) => [name, written[name] ?? ""]));
      const body = { ...UNSAID, ...said, table: "procedures", key: (written.name ?? "").trim(), figures };
      return unwrap(client.PUT("/api/rules/one", { body }));
    },
    onSuccess: (next) => {
      settled(next);
      onDone();
    },
  });
  const field = (name: string) => ({
    value: written[name] ?? "",
    onChange: (text: string) => setWritten((now) => ({ ...now, [name]: text })),
    required: true,
  });
  return (
    <form
      className="my-2 grid gap-3 rounded-xl bg-quiet p-4"
      aria-label={item ? `Change ${item.name}` : "One more procedure"}
      onSubmit={(event) => {
        event.preventDefault();
        const read = FIGURES.map(({ name }) => [name, typed(written[name] ?? "")] as const);
        const wrong = read.filter(([, value]) => value === null);
        setFault(Object.fromEntries(wrong.map(([name]) => [name, "Write figures, such as 88."])));
        if (!wrong.length) keep.mutate(Object.fromEntries(read) as Record<string, number>);
      }}
    >
      <Field label="What it is called" {...field("name")} readOnly={item !== undefined} maxLength={80} />
      <div className="grid gap-3 sm:grid-cols-2">
        {FIGURES.map(({ name, label, unit }) => (
          <Field key={name} label={label} unit={unit} inputMode="decimal" fault={fault[name]} {...field(name)} />
        ))}
        {WORDS.map(({ name, label }) => (
          <Field key={name} label={label} maxLength={300} {...field(name)} />
        ))}
      </div>
      <FormEnd keep={keep} onBack={onDone} />
    </form>
  );
}
