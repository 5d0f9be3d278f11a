import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, type Schemas, unwrap } from "../../api/client";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { KnownField } from "../../parts/KnownField";
import { MaterialPicker } from "../../parts/MaterialPicker";
import { Trouble } from "../../parts/Notice";
import { typed } from "../../parts/numbers";
import { Sheet } from "../../parts/Sheet";

const BLANK = { material: "", product: "", supplier: "", price: "", pack_g: "", packs: "1", colour: "" };

interface ReceiveDeliveryProps {
  open: boolean;
  onClose: () => void;
  onReceived: (item: Schemas["StockOut"]) => void;
}

/** Take in a delivery: what it is, from whom, how much, for how much. */
export function ReceiveDelivery({ open, onClose, onReceived }: ReceiveDeliveryProps) {
  const queries = useQueryClient();
  const [form, setForm] = useState(BLANK);
  const [name, setName] = useState("");
  const receive = useMutation({
    mutationFn: () => {
      const figures = { price: form.price.trim().replace(",", ".") || null, pack_g: form.pack_g.replace(",", ".") };
      return unwrap(client.POST("/api/stock", { body: { ...form, ...figures, form: "", packs: typed(form.packs) ?? 0 } }));
    },
    onSuccess: (item) => {
      setForm(BLANK);
      void queries.invalidateQueries({ queryKey: ["stock"] });
      onReceived(item);
    },
  });
  const wrong = (where: string) =>
    receive.error instanceof Problem && receive.error.where.endsWith(where) ? receive.error.detail : undefined;
  const put = (key: keyof typeof BLANK) => (value: string) => setForm((before) => ({ ...before, [key]: value }));
  const known = Object.keys(BLANK).some((key) => wrong(key));
  return (
    <Sheet open={open} onClose={onClose} title="Take in a delivery">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          receive.mutate();
        }}
      >
        <div className="flex items-center gap-3">
          <MaterialPicker
            label={form.material ? name : "What is it?"}
            onPick={(key, called) => {
              setName(called);
              put("material")(key);
            }}
          />
          {wrong("material") ? <span className="text-[14px] font-semibold text-warn">{wrong("material")}</span> : null}
        </div>
        <Field label="What stands on the box" value={form.product} onChange={put("product")} fault={wrong("product")} />
        <KnownField kind="supplier" label="From" value={form.supplier} onChange={put("supplier")} />
        <div className="grid grid-cols-3 gap-3">
          <Field label="A pack weighs" unit="g" inputMode="decimal" value={form.pack_g} onChange={put("pack_g")} fault={wrong("pack_g")} />
          <Field label="A pack costs" inputMode="decimal" value={form.price} onChange={put("price")} fault={wrong("price")} />
          <Field label="Packs" inputMode="numeric" value={form.packs} onChange={put("packs")} fault={wrong("packs")} />
        </div>
        <Field label="Colour, in your words" value={form.colour} onChange={put("colour")} />
        <Trouble error={known ? null : receive.error} />
        <Button look="main" type="submit" disabled={receive.isPending}>
          Put it on the shelf
        </Button>
      </form>
    </Sheet>
  );
}
