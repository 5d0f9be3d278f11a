import { useState } from "react";
import { client, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import { FruitChoice } from "../common/FruitChoice";
import { useAct } from "../common/useAct";

const BLANK = { fruit: "", supplier: "", size: "", count: "", weight_g: "", price: "" };
const WHERES = ["fruit", "supplier", "count", "weight_g", "price"];

/** A case counted and weighed. */
export function CaseSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [form, setForm] = useState(BLANK);
  const put = (key: keyof typeof BLANK) => (value: string) => setForm((before) => ({ ...before, [key]: value }));
  const receive = useAct(
    () => {
      const figures = { count: typed(form.count) ?? 0, weight_g: typed(form.weight_g) ?? 0, price: form.price.replace(",", ".") || "0" };
      return unwrap(client.POST("/api/citrus/cases", { body: { ...form, ...figures } }));
    },
    () => {
      setForm(BLANK);
      onClose();
    },
  );
  const placed = WHERES.some((where) => receive.fault(where));
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="A case came in"
      about="Count it and weigh it whole; what a fruit gives is learned as you cut."
    >
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          receive.mutate();
        }}
      >
        <FruitChoice value={form.fruit} onChange={put("fruit")} />
        {receive.fault("fruit") ? <p className="text-[14px] font-semibold text-warn">{receive.fault("fruit")}</p> : null}
        <div className="grid grid-cols-2 gap-3">
          <Field label="Fruits in it" inputMode="numeric" value={form.count} onChange={put("count")} fault={receive.fault("count")} />
          <Field
            label="Weight of all fruit"
            unit="g"
            inputMode="decimal"
            value={form.weight_g}
            onChange={put("weight_g")}
            fault={receive.fault("weight_g")}
          />
        </div>
        <Field label="From" value={form.supplier} onChange={put("supplier")} fault={receive.fault("supplier")} />
        <div className="grid grid-cols-2 gap-3">
          <Field label="Size on the box" value={form.size} onChange={put("size")} placeholder="count 40" />
          <Field label="Price of the case" inputMode="decimal" value={form.price} onChange={put("price")} fault={receive.fault("price")} />
        </div>
        <Trouble error={placed ? null : receive.error} />
        <Button look="main" type="submit" disabled={receive.isPending}>
          Count it in
        </Button>
      </form>
    </Sheet>
  );
}
