import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../../api/client";
import { PrintLabels } from "../../../instruments/PrintLabels";
import { useInstruments } from "../../../instruments/useInstruments";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";

const WAITS_SIZE = "60x40";

/** A vessel that is left alone gets its label when its wait begins; it is asked for until it has one. */
export function WaitLabel({ run, step }: { run: string; step: string }) {
  const key = `ulsek.labelled.${run}.${step}`;
  const [has, setHas] = useState(() => localStorage.getItem(key) !== null);
  const { items } = useInstruments();
  const printer = items.find((item) => item.kind === "label_printer");
  const done = () => {
    localStorage.setItem(key, "yes");
    setHas(true);
  };
  const print = useMutation({
    mutationFn: (id: string) =>
      unwrap(client.POST("/api/runs/{run_id}/print", { params: { path: { run_id: run } }, body: { printer: id, size: WAITS_SIZE } })),
    onSuccess: done,
  });
  if (has) return null;
  const looks = "inline-flex min-h-[72px] items-center rounded-[16px] border-2 border-rim px-6 text-[22px] font-semibold text-rim";
  return (
    <div className="flex flex-wrap items-center justify-between gap-3 rounded-[14px] border-l-[9px] border-rim bg-quiet p-3 text-[20px] lg:mb-3">
      <p>It waits: the vessel wants a label.</p>
      <div className="flex flex-wrap gap-2.5 [&>*]:min-h-16 [&>*]:px-4 [&>*]:text-[20px]">
        {printer ? (
          <Button size="bench" onClick={() => print.mutate(printer.id)} disabled={print.isPending}>
            Print it
          </Button>
        ) : (
          <a href={`/api/runs/${run}/labels.pdf?size=${WAITS_SIZE}`} target="_blank" rel="noreferrer" onClick={done} className={looks}>
            Open it
          </a>
        )}
        <Button size="bench" onClick={done}>
          It has one
        </Button>
      </div>
      <Trouble error={print.error} />
    </div>
  );
}

/** Every label of a batch in one print: one for each bottle, one for each by-product. */
export function RunLabels({ run, may }: { run: string; may: boolean }) {
  return (
    <PrintLabels
      pdf={`/api/runs/${run}/labels.pdf`}
      pdfSays="All labels as PDF"
      may={may}
      print={(printer, size) =>
        unwrap(client.POST("/api/runs/{run_id}/print", { params: { path: { run_id: run } }, body: { printer, size } }))
      }
    />
  );
}
