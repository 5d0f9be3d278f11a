import { useState } from "react";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { figure, GAP } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import type { Run } from "../run/useBench";
import { FinishSheet } from "./FinishSheet";
import { HandOver } from "./HandOver";
import { MoreSheet, SampleSheet } from "./MoreSheet";
import { ReadingSheet } from "./ReadingSheet";
import { RepairCard } from "./RepairCard";
import { SupplySheet } from "./SupplySheet";
import type { OpenSheet, SheetProps } from "./sheetProps";
import { TasteSheet } from "./TasteSheet";
import { WeighAhead, WeighOne } from "./WeighSheets";
import { WentWrong } from "./WentWrong";
import { WhoDidIt } from "./WhoDidIt";

export interface BenchSheetsProps extends Omit<SheetProps, "open"> {
  open: OpenSheet;
  onOpen: (sheet: OpenSheet) => void;
  putOff?: Run["state"]["repairs"][number];
}

/** Everything that unrolls over the bench. */
export function BenchSheets({ open, onOpen, onClose, run, now, bench, putOff }: BenchSheetsProps) {
  const { step, line } = now;
  const shared = { onClose, run, now, bench };
  return (
    <>
      {line && open === "weigh" ? <WeighOne run={run} bench={bench} line={line} onClose={onClose} /> : null}
      <ReadingSheet open={open === "reading"} {...shared} />
      <TasteSheet open={open === "taste"} {...shared} />
      <WeighAhead open={open === "ahead"} {...shared} />
      {line && open === "supply" ? <SupplySheet {...shared} /> : null}
      <HandOver open={open === "hand"} {...shared} />
      <WentWrong open={open === "wrong"} {...shared} />
      <SampleSheet open={open === "sample"} {...shared} />
      <MoreSheet open={open === "more"} onOpen={onOpen} {...shared} />
      <Sheet
        open={open === "story"}
        onClose={onClose}
        title="So far"
        about={`${run.code} · version ${run.version} · started by ${run.started_by}`}
        wide
      >
        <ol className="grid gap-3 text-[18px]">
          {run.state.steps.map((item) => (
            <li key={item.id} className={item.state === "now" ? "font-bold" : item.state === "later" ? "text-soft" : ""}>
              {item.title} <span className="font-normal text-soft">· {item.state === "now" ? "at hand" : item.state}</span>
              {item.lines.map((weighed) => (
                <span key={weighed.id} className="block pl-4 font-normal">
                  {weighed.name}{" "}
                  <span className={`figures ${weighed.actual_g === null ? "worked" : "was-read"}`}>
                    {figure(weighed.actual_g ?? weighed.planned_g?.value ?? 0)}
                    {GAP}g
                  </span>
                  {weighed.actual_g !== null && weighed.parts.length > 1
                    ? `, out of ${weighed.parts.length}: ${weighed.parts.map((part) => figure(part.mass_g)).join(" + ")}${GAP}g`
                    : ""}
                  {weighed.dose ? <span className="block text-soft">{weighed.dose}</span> : null}
                </span>
              ))}
            </li>
          ))}
        </ol>
        <WhoDidIt run={run} />
        <p className="mt-3 text-[16px] text-soft">{run.rules}</p>
        <div className="mt-4 grid gap-3">
          {run.state.deviations.map((item) => (
            <p key={item.line} className="rounded-[14px] bg-quiet p-3 text-[18px]">
              {item.text}
            </p>
          ))}
          {run.state.readings.map((item) => (
            <p key={item.event} className="rounded-[14px] bg-quiet p-3 text-[18px]">
              {item.text}
            </p>
          ))}
          {run.state.conflicts.map((text) => (
            <p key={text} className="rounded-[14px] border-l-[9px] border-warn bg-quiet p-3 text-[18px] font-bold">
              {text}
            </p>
          ))}
          {run.state.tastes.map((item) => (
            <p key={`${item.step}-${item.sense}-${item.verdict}-${item.text}`} className="rounded-[14px] bg-quiet p-3 text-[18px]">
              {item.sense}: {item.verdict}
              {item.text ? `, “${item.text}”` : ""}. {item.advice}
            </p>
          ))}
          {run.state.notes.map((text) => (
            <p key={text} className="rounded-[14px] border-l-[9px] border-line bg-quiet p-3 text-[18px]">
              {text}
            </p>
          ))}
          {putOff && step ? <RepairCard repair={putOff} record={bench.record} /> : null}
          {run.state.status === "open" ? <NoteLine onNote={(text) => void bench.record(["noted", { text }])} /> : null}
        </div>
      </Sheet>
      {open === "finish" ? <FinishSheet {...shared} /> : null}
    </>
  );
}

/** What was tasted, seen or smelled, in the maker's own words. */
function NoteLine({ onNote }: { onNote: (text: string) => void }) {
  const [text, setText] = useState("");
  return (
    <form
      className="flex items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!text.trim()) return;
        onNote(text.trim());
        setText("");
      }}
    >
      <Field label="How it tastes, looks, smells" value={text} onChange={setText} className="flex-1" />
      <Button type="submit" disabled={!text.trim()}>
        Note it
      </Button>
    </form>
  );
}
