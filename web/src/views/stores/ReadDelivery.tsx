import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, type Schemas, unwrap } from "../../api/client";
import { FIGURES } from "../../api/figures";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Trouble } from "../../parts/Notice";
import { typed } from "../../parts/numbers";
import { Sheet } from "../../parts/Sheet";

/** Read this delivery: its own figures in place of the typical ones. */
export function ReadDelivery({ item, onClose }: { item: Schemas["StockOut"] | null; onClose: () => void }) {
  const queries = useQueryClient();
  const [brix, setBrix] = useState("");
  const [acid, setAcid] = useState("");
  const [fault, setFault] = useState<{ where: string; text: string } | null>(null);
  const close = () => {
    setBrix("");
    setAcid("");
    setFault(null);
    read.reset();
    onClose();
  };
  const read = useMutation({
    mutationFn: (body: Schemas["ReadingsIn"]) =>
      unwrap(client.POST("/api/stock/{stock_id}/readings", { params: { path: { stock_id: item?.id ?? "" } }, body })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["stock"] });
      void queries.invalidateQueries({ queryKey: ["draft"] });
      close();
    },
  });
  const send = () => {
    const body: Schemas["ReadingsIn"] = {};
    for (const [name, text] of [
      ["brix_reading", brix],
      ["acid_g_100ml", acid],
    ] as const) {
      if (!text.trim()) continue;
      const value = typed(text);
      if (value === null) return setFault({ where: name, text: `“${text}” is no number. Write figures, such as 8.2.` });
      body[name] = value;
    }
    setFault(null);
    read.mutate(body);
  };
  const wrong = (name: string) =>
    fault?.where === name ? fault.text : read.error instanceof Problem && read.error.where.endsWith(name) ? read.error.detail : undefined;
  const elsewhere = read.error instanceof Problem && (wrong("brix_reading") || wrong("acid_g_100ml")) ? null : read.error;
  return (
    <Sheet
      open={item !== null}
      onClose={close}
      title="Read this delivery"
      about={item ? `${item.product}, ${item.supplier}. Clear juice, at 20 °C, stirred.` : ""}
    >
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <Field
          label="Refractometer"
          unit={FIGURES.brix_reading.unit}
          size="bench"
          inputMode="decimal"
          value={brix}
          onChange={setBrix}
          fault={wrong("brix_reading")}
          autoFocus
        />
        <Field
          label="Titratable acid, as citric"
          unit={FIGURES.acid_g_100ml.unit}
          size="bench"
          inputMode="decimal"
          value={acid}
          onChange={setAcid}
          fault={wrong("acid_g_100ml")}
        />
        <Trouble error={elsewhere} />
        <Button look="main" type="submit" disabled={read.isPending}>
          Keep the reading
        </Button>
      </form>
    </Sheet>
  );
}
