import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, told } from "../../api/client";
import { useInstruments } from "../../instruments/useInstruments";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Trouble } from "../../parts/Notice";

const SIZES = [
  { value: "100x70", label: "100 × 70 mm" },
  { value: "62x100", label: "62 × 100 mm" },
  { value: "60x40", label: "60 × 40 mm" },
] as const;

/** Every label of a batch in one print: one for each bottle, one for each by-product. */
export function RunLabels({ run, may }: { run: string; may: boolean }) {
  const { items } = useInstruments();
  const [size, setSize] = useState<(typeof SIZES)[number]["value"]>("100x70");
  const printers = items.filter((item) => item.kind === "label_printer");
  const print = useMutation({
    mutationFn: (printer: string) =>
      told(client.POST("/api/runs/{run_id}/print", { params: { path: { run_id: run } }, body: { printer, size } })),
  });
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Choice label="Size of the label" value={size} options={SIZES} onChange={setSize} />
      <a
        href={`/api/runs/${run}/labels.pdf?size=${size}`}
        target="_blank"
        rel="noreferrer"
        className="inline-flex min-h-11 items-center rounded-full border border-rim px-4 font-semibold text-rim"
      >
        All labels as PDF
      </a>
      {may
        ? printers.map((item) => (
            <Button key={item.id} onClick={() => print.mutate(item.id)} disabled={print.isPending}>
              Print on the {item.name}
            </Button>
          ))
        : null}
      {print.data ? <p role="status">{print.data.printed} printed.</p> : null}
      <Trouble error={print.error} />
    </div>
  );
}
