import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { FileField } from "../../../parts/FileField";
import { MaterialPicker } from "../../../parts/MaterialPicker";
import { Trouble } from "../../../parts/Notice";
import { rowOf, rowsSent, type TableRow, tableRows } from "./rows";
import { useReceiveMany } from "./useReceiveMany";

const MEANINGS = [
  { value: "nothing", label: "not taken" },
  { value: "product", label: "what it is" },
  { value: "supplier", label: "from whom" },
  { value: "pack", label: "what a pack holds" },
  { value: "unit", label: "unit of that" },
  { value: "packs", label: "how many packs" },
  { value: "price", label: "price of a pack" },
] as const;
type Meaning = (typeof MEANINGS)[number]["value"];

const EXAMPLE = "Item;Supplier;Pack;Count;Price\nLemons;Calder Citrus Yard;5 kg;2;14.50\nCitric acid;Meridian Dry Goods;1 kg;1;6.20";

/** A table is pasted or chosen, shown as it is understood, corrected, and taken in whole. */
export function FromTable() {
  const [text, setText] = useState("");
  const [rows, setRows] = useState<TableRow[]>([]);
  const read = useMutation({
    mutationFn: (columns: string[]) => unwrap(client.POST("/api/stock/read-table", { body: { text, columns } })),
    onSuccess: (table) => setRows(tableRows(table)),
  });
  const receive = useReceiveMany();
  const sent = rowsSent(rows);
  const place = receive.error instanceof Problem ? rowOf(receive.error.where) : null;
  const wrong = place === null ? undefined : rows.filter((row) => row.wanted)[place]?.line;
  const put = (line: number, change: Partial<TableRow>) => {
    receive.reset();
    setRows((before) => before.map((row) => (row.line === line ? { ...row, ...change } : row)));
  };
  const columns = read.data?.columns ?? [];
  return (
    <section className="tray p-5" aria-label="From a table">
      <h2 className="text-[22px]">From a table</h2>
      <p className="mb-3 text-soft">
        What you bought, as your supplier, your till or a spreadsheet writes it: CSV, or pasted from it. Nothing is kept before you put it
        on the shelf.
      </p>
      {read.data ? null : (
        <div className="grid gap-3">
          <label className="grid gap-1">
            <span className="text-[14px] text-soft">The table</span>
            <textarea
              value={text}
              onChange={(event) => setText(event.target.value)}
              rows={5}
              className="figures rounded-xl border border-line bg-enamel p-3 text-[15px]"
              placeholder={EXAMPLE}
            />
          </label>
          <FileField label="Or a file in CSV" accept=".csv,.tsv,.txt" onFile={(file) => void file.text().then(setText)} />
          <Trouble error={read.error} />
          <Button look="main" className="justify-self-start" disabled={read.isPending || !text.trim()} onClick={() => read.mutate([])}>
            Read it
          </Button>
        </div>
      )}
      {read.data ? (
        <>
          <div className="mb-3 flex flex-wrap gap-3">
            {columns.map((column, at) => (
              <div key={column.head}>
                <p className="mb-1 text-[14px] text-soft">{column.head || "a column without a head"}</p>
                <Choice
                  label={`What “${column.head}” is`}
                  value={(column.meaning || "nothing") as Meaning}
                  options={MEANINGS}
                  onChange={(next) =>
                    read.mutate(
                      columns.map((other, n) =>
                        n === at ? (next === "nothing" ? "" : next) : other.meaning === next ? "" : other.meaning,
                      ),
                    )
                  }
                  disabled={read.isPending}
                />
              </div>
            ))}
          </div>
          <ul>
            {rows.map((row) => (
              <RowLine
                key={row.line}
                row={row}
                fault={wrong === row.line && receive.error instanceof Problem ? receive.error.detail : ""}
                onChange={(change) => put(row.line, change)}
              />
            ))}
          </ul>
          <Trouble error={wrong === undefined ? receive.error : null} />
          <div className="mt-3 flex flex-wrap gap-2">
            <Button look="main" disabled={receive.isPending || sent.length === 0} onClick={() => receive.mutate(sent)}>
              {sent.length === 0 ? "No row is complete yet" : `Put ${sent.length} of ${rows.length} on the shelf`}
            </Button>
            <Button onClick={() => read.reset()}>Another table</Button>
          </div>
        </>
      ) : null}
    </section>
  );
}

interface RowLineProps {
  row: TableRow;
  fault: string;
  onChange: (change: Partial<TableRow>) => void;
}

function RowLine({ row, fault, onChange }: RowLineProps) {
  return (
    <li className="grid items-end gap-2 border-t border-line py-2 md:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)_7rem_5rem_7rem]">
      <label className="flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          className="size-5 accent-rim"
          checked={row.wanted}
          onChange={(event) => onChange({ wanted: event.target.checked })}
          aria-label={`Take in ${row.product}`}
        />
        <span>
          <b>{row.product}</b>
          <span className="block text-[14px] text-soft">{row.supplier || "from nobody named"}</span>
        </span>
      </label>
      <MaterialPicker
        label={row.name || "What is it?"}
        onPick={(material, name) => onChange({ material, name, wanted: row.pack !== "" })}
      />
      <Field label="A pack holds" value={row.pack} onChange={(pack) => onChange({ pack, wanted: row.material !== "" && pack !== "" })} />
      <Field
        label="Packs"
        inputMode="numeric"
        value={String(row.packs)}
        onChange={(packs) => onChange({ packs: Number.parseInt(packs, 10) || 0 })}
      />
      <Field label="A pack costs" inputMode="decimal" value={row.price} onChange={(price) => onChange({ price })} />
      {fault ? (
        <p role="alert" className="text-[14px] font-semibold text-warn md:col-span-5">
          {fault}
        </p>
      ) : row.doubts.length && !row.wanted ? (
        <p className="text-[14px] text-soft md:col-span-5">{row.doubts.join(" ")}</p>
      ) : null}
    </li>
  );
}
