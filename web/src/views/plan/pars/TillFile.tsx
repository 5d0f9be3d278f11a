import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { FileField } from "../../../parts/FileField";
import { Trouble } from "../../../parts/Notice";
import { figure } from "../../../parts/numbers";
import { day } from "../../../parts/say";

type Read = Schemas["TillRead"];
type Meaning = "day" | "product" | "count" | "none";
type Order = Read["order"];

const MEANINGS = [
  { value: "none", label: "nothing of use" },
  { value: "day", label: "when it was sold" },
  { value: "product", label: "what was sold" },
  { value: "count", label: "how many" },
] as const;
const ORDERS = [
  { value: "dmy", label: "day first" },
  { value: "mdy", label: "month first" },
  { value: "ymd", label: "year first" },
] as const;
const NOT_OURS = "none";
/** So many names stand there at once; the rest, of which most are known, is a press away. */
const SHOWN = 60;

/** A file as the API takes it, with what is said of it. */
function form(file: File, said: Record<string, string>): never {
  const body = new FormData();
  body.append("file", file);
  for (const [name, value] of Object.entries(said)) body.append(name, value);
  return body as never;
}
const serialized = { bodySerializer: (body: unknown) => body as FormData };

/** What was used, from any till's file: its columns and names are said once. */
export function TillFile() {
  const queries = useQueryClient();
  const [file, setFile] = useState<File | null>(null);
  const [columns, setColumns] = useState<readonly Meaning[]>([]);
  const [order, setOrder] = useState<Order>("");
  const [names, setNames] = useState<Record<string, string>>({});
  const said = { columns: columns.map((one) => (one === "none" ? "" : one)).join(","), order };
  const read = useMutation({
    mutationFn: (asked: { file: File; columns: string; order: string }) =>
      unwrap(client.POST("/api/plan/till/read", { body: form(asked.file, { columns: asked.columns, order: asked.order }), ...serialized })),
    onSuccess: (found) => setColumns(found.columns.map((one) => (one.meaning || "none") as Meaning)),
  });
  const take = useMutation({
    mutationFn: (asked: File) => {
      const told = Object.fromEntries(Object.entries(names).map(([name, spec]) => [name, spec === NOT_OURS ? null : spec]));
      return unwrap(client.POST("/api/plan/till", { body: form(asked, { ...said, names: JSON.stringify(told) }), ...serialized }));
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["plan"] }),
  });
  const look = (next: Partial<{ file: File; columns: readonly Meaning[]; order: Order }>) => {
    const asked = next.file ?? file;
    const meanings = next.columns ?? (next.file ? [] : columns);
    const dates = next.order ?? (next.file ? "" : order);
    setFile(asked);
    setColumns(meanings);
    setOrder(dates);
    take.reset();
    if (asked) read.mutate({ file: asked, columns: meanings.map((one) => (one === "none" ? "" : one)).join(","), order: dates });
  };
  const { data } = read;
  return (
    <section className="tray mt-3.5 p-4 md:p-5" aria-label="From the till">
      <h2 className="text-[20px]">From the till</h2>
      <p className="mb-2 text-[15px] text-soft">
        A table of what was sold, as CSV, from any till: what a drink takes of a prep gives the par by use. Which column is which, and what
        the till calls a drink, is said once.
      </p>
      <FileField label="The till's file" accept=".csv,.txt,text/csv" onFile={(chosen) => look({ file: chosen })} />
      {data && !read.error ? (
        <div className="mt-3 grid gap-3">
          <div className="flex flex-wrap items-end gap-3">
            {data.columns.map((column, n) => (
              <div key={column.head} className="grid gap-1">
                <span className="text-[14px] text-soft">{column.head}</span>
                <Choice
                  label={`What “${column.head}” is`}
                  value={columns[n] ?? "none"}
                  options={MEANINGS}
                  onChange={(value) => look({ columns: columns.map((one, at) => (at === n ? value : one === value ? "none" : one)) })}
                />
              </div>
            ))}
            {data.where === "order" || order ? (
              <Choice
                label="How its dates are written"
                value={order || ""}
                options={ORDERS}
                onChange={(value) => look({ order: value as Order })}
              />
            ) : null}
          </div>
          {data.needs ? (
            <p role="status" className="text-[15px] font-semibold text-warn">
              {data.needs}: say {data.where === "order" ? "which comes first" : "which column it is"}.
            </p>
          ) : (
            <Names data={data} names={names} onName={(name, spec) => setNames({ ...names, [name]: spec })} />
          )}
          <div className="flex flex-wrap items-center gap-3">
            <Button look="main" disabled={!file || Boolean(data.needs) || take.isPending} onClick={() => file && take.mutate(file)}>
              Take it in
            </Button>
            {take.data ? (
              <p role="status">
                {take.data.said}
                {take.data.left_out.length ? ` Left out: ${take.data.left_out.slice(0, 5).join(", ")}.` : ""}
              </p>
            ) : null}
          </div>
        </div>
      ) : null}
      <Trouble error={read.error ?? take.error} />
    </section>
  );
}

interface NamesProps {
  data: Read;
  names: Record<string, string>;
  onName: (name: string, spec: string) => void;
}

/** What the till calls things, those that nobody has said first. */
function Names({ data, names, onName }: NamesProps) {
  const [whole, setWhole] = useState(false);
  const hidden = whole ? 0 : Math.max(0, data.names.length - SHOWN);
  return (
    <>
      <p className="text-[15px]">
        {day(data.first ?? "")} to {day(data.last ?? "")}, {figure(data.rows, 0)} lines
        {data.unread ? `; ${figure(data.unread, 0)} were not read: ${data.problems.join("; ")}` : ""}
      </p>
      <ul aria-label="What the till calls things">
        {data.names.slice(0, data.names.length - hidden).map((one) => (
          <li key={one.name} className="flex min-h-12 flex-wrap items-center justify-between gap-3 border-t border-line py-1 text-[15px]">
            <span>
              <b>{one.name}</b> <span className="text-soft">{figure(one.count, 0)} sold</span>
            </span>
            <Choice
              label={`What “${one.name}” is`}
              value={names[one.name] ?? (one.is_known ? (one.spec ?? NOT_OURS) : "")}
              options={[
                { value: NOT_OURS, label: "no drink of ours" },
                ...data.drinks.map((drink) => ({ value: drink.spec, label: drink.name })),
              ]}
              onChange={(value) => onName(one.name, value)}
            />
          </li>
        ))}
      </ul>
      {hidden ? (
        <Button look="quiet" className="justify-self-start" onClick={() => setWhole(true)}>
          Show {figure(hidden, 0)} more names
        </Button>
      ) : null}
    </>
  );
}
