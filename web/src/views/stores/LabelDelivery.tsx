import { useState } from "react";
import { client, type Schemas, unwrap } from "../../api/client";
import { PrintLabels } from "../../instruments/PrintLabels";
import { Field } from "../../parts/Field";
import { typed } from "../../parts/numbers";
import { Sheet } from "../../parts/Sheet";

/** The label of a delivery: with it on the crate, the bench scans what a line comes out of. */
export function LabelDelivery({ item, onClose }: { item: Schemas["StockOut"] | null; onClose: () => void }) {
  const [crates, setCrates] = useState("1");
  const count = typed(crates);
  const whole = count !== null && Number.isInteger(count) && count > 0;
  return (
    <Sheet
      open={item !== null}
      onClose={onClose}
      title={item ? `${item.product}: ${item.code}` : "Label"}
      about="One label for each crate. The bench scans it, or takes the code typed."
    >
      {item ? (
        <div className="grid gap-4">
          <Field
            label="Crates"
            inputMode="numeric"
            value={crates}
            onChange={setCrates}
            fault={whole ? undefined : "A whole number, from 1."}
            className="w-32"
          />
          <PrintLabels
            pdf={`/api/stock/${item.id}/label.pdf`}
            pdfSays="Label as PDF"
            usual="60x40"
            may={whole}
            print={(printer, size) =>
              unwrap(
                client.POST("/api/stock/{stock_id}/print", {
                  params: { path: { stock_id: item.id } },
                  body: { printer, size, each: count },
                }),
              )
            }
          />
        </div>
      ) : null}
    </Sheet>
  );
}
