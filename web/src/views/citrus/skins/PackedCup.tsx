import { useState } from "react";
import { client, expectOk } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { useAct } from "../common/useAct";

/** What a measure of peel weighs when it is packed, told once, so that sugar by volume can be worked out. */
export function PackedCup({ fruit }: { fruit: string }) {
  const [cup, setCup] = useState({ ml: "", grams: "" });
  const weigh = useAct(() =>
    expectOk(client.POST("/api/citrus/packed-peel", { body: { fruit, ml: typed(cup.ml) ?? 0, grams: typed(cup.grams) ?? 0 } })),
  );
  return (
    <div className="grid gap-2 border-t border-line pt-3">
      <h3 className="text-[17px]">Weigh a packed cup once</h3>
      <div className="grid grid-cols-2 gap-3">
        <Field
          label="Measure holds"
          unit="mL"
          inputMode="decimal"
          value={cup.ml}
          onChange={(ml) => setCup({ ...cup, ml })}
          fault={weigh.fault("ml")}
        />
        <Field
          label="Packed, it weighs"
          unit="g"
          inputMode="decimal"
          value={cup.grams}
          onChange={(grams) => setCup({ ...cup, grams })}
          fault={weigh.fault("grams")}
        />
      </div>
      <Button onClick={() => weigh.mutate()} disabled={weigh.isPending}>
        Teach it
      </Button>
      <Trouble error={weigh.fault("grams") ? null : weigh.error} />
    </div>
  );
}
