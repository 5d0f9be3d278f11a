import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { Trouble } from "../parts/Notice";
import { useRegister } from "../parts/useRegister";
import { useInstruments } from "./useInstruments";

const SIZES = [
  { value: "100x70", label: "100 × 70 mm" },
  { value: "62x100", label: "62 × 100 mm" },
  { value: "60x40", label: "60 × 40 mm" },
];

interface PrintLabelsProps {
  /** Where the PDF lies, without its size. */
  pdf: string;
  pdfSays: string;
  print: (printer: string, size: string) => Promise<{ printed: number }>;
  may: boolean;
  usual?: string;
}

/** Labels in a size, as a PDF or on one of the house's printers. */
export function PrintLabels({ pdf, pdfSays, print, may, usual = "100x70" }: PrintLabelsProps) {
  const { items } = useInstruments();
  const [size, setSize] = useState(usual);
  const own = useRegister("label").map(({ name, figures: { width_mm, height_mm } }) => ({
    value: `${width_mm}x${height_mm}`,
    label: `${name}, ${width_mm} × ${height_mm} mm`,
  }));
  // A size that ships, or that stands there twice, is offered once.
  const sizes = [...SIZES, ...own].filter(({ value }, at, all) => all.findIndex((other) => other.value === value) === at);
  const printers = items.filter((item) => item.kind === "label_printer");
  const printing = useMutation({ mutationFn: (printer: string) => print(printer, size) });
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Choice label="Size of the label" value={size} options={sizes} onChange={setSize} />
      <a
        href={`${pdf}?size=${size}`}
        target="_blank"
        rel="noreferrer"
        className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 font-semibold text-rim"
      >
        {pdfSays}
      </a>
      {may
        ? printers.map((item) => (
            <Button key={item.id} onClick={() => printing.mutate(item.id)} disabled={printing.isPending}>
              Print on the {item.name}
            </Button>
          ))
        : null}
      {printing.data ? <p role="status">{printing.data.printed} printed.</p> : null}
      <Trouble error={printing.error} />
    </div>
  );
}
