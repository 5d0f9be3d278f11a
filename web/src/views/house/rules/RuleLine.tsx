import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { FormEnd } from "./FormEnd";
import { figuresOf, type Rule, said, shipped, type Table, UNSAID } from "./rules";
import { useKeptSheet } from "./useKeptSheet";

/** One rule: what it says, where it comes from, and the way to change it. */
export function RuleLine({ table, rule }: { table: Table; rule: Rule }) {
  const kept = useKeptSheet();
  const [open, setOpen] = useState(false);
  const settled = (next: Schemas["RuleSheet"]) => {
    kept(next);
    setOpen(false);
  };
  const drop = useMutation({
    mutationFn: () => unwrap(client.POST("/api/rules/one/drop", { body: { table: table.key, key: rule.key } })),
    onSuccess: settled,
  });
  return (
    <li className="border-t border-line py-3">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div className="min-w-0 flex-1 basis-64">
          <p className="text-[17px]">
            <b>{rule.words}</b>
            {rule.own ? <span className="ml-2 rounded-md border border-rim px-1.5 text-[14px]">ours</span> : null}
          </p>
          <p className="text-[15px]">
            {rule.figures.map((item, at) => (
              <span key={item.name}>
                {at ? ", " : ""}
                {said(item)}
                {rule.own && item.value !== item.ships ? <span className="text-soft"> (ships with {shipped(item)})</span> : null}
              </span>
            ))}
          </p>
          <p className="text-[14px] text-soft">
            {rule.source}
            {rule.dated ? ` · ${rule.dated}` : ""}
          </p>
        </div>
        {open ? null : (
          <div className="flex flex-wrap gap-1">
            <Button look="quiet" onClick={() => setOpen(true)} aria-label={`Change: ${rule.words}`}>
              Change
            </Button>
            {rule.own ? (
              <Button look="quiet" disabled={drop.isPending} onClick={() => drop.mutate()} aria-label={`As it ships: ${rule.words}`}>
                As it ships
              </Button>
            ) : null}
          </div>
        )}
      </div>
      <Trouble error={drop.error} />
      {open ? <RuleForm table={table} rule={rule} onKept={settled} onBack={() => setOpen(false)} /> : null}
    </li>
  );
}

interface FormProps {
  table: Table;
  rule: Rule;
  onKept: (next: Schemas["RuleSheet"]) => void;
  onBack: () => void;
}

function RuleForm({ table, rule, onKept, onBack }: FormProps) {
  const [written, setWritten] = useState<Readonly<Record<string, string>>>({});
  const [words, setWords] = useState({ source: "", authority: "", by: "", why: "" });
  const [fault, setFault] = useState("");
  const keep = useMutation({
    mutationFn: (figures: Record<string, number>) =>
      unwrap(client.PUT("/api/rules/one", { body: { table: table.key, key: rule.key, figures, ...UNSAID, ...words } })),
    onSuccess: onKept,
  });
  const say = (name: keyof typeof words) => (text: string) => setWords((now) => ({ ...now, [name]: text }));
  const takes = new Set(table.takes);
  return (
    <form
      className="mt-3 grid gap-3 rounded-xl bg-quiet p-4"
      aria-label={`Change: ${rule.words}`}
      onSubmit={(event) => {
        event.preventDefault();
        const figures = figuresOf(rule, written);
        setFault(figures ? "" : "Write figures, such as 2.5.");
        if (figures) keep.mutate(figures);
      }}
    >
      <div className="flex flex-wrap gap-3">
        {rule.figures.map((item) => (
          <Field
            key={item.name}
            label={item.label}
            unit={item.unit}
            inputMode="decimal"
            value={written[item.name] ?? String(item.value)}
            onChange={(text) => setWritten((now) => ({ ...now, [item.name]: text }))}
            className="w-52"
            required
          />
        ))}
      </div>
      <Field label="Where that comes from" value={words.source} onChange={say("source")} maxLength={400} required />
      {takes.has("authority") ? (
        <Field label="To loosen it: your authority's word" value={words.authority} onChange={say("authority")} maxLength={400} />
      ) : (
        <div className="grid gap-3 sm:grid-cols-2">
          <Field label="To make it longer: who decided it" value={words.by} onChange={say("by")} maxLength={400} />
          <Field label="and why" value={words.why} onChange={say("why")} maxLength={400} />
        </div>
      )}
      <FormEnd fault={fault} keep={keep} onBack={onBack} />
    </form>
  );
}
