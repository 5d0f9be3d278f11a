import { useState } from "react";
import { client, expectOk } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { useAct } from "../common/useAct";

interface SpentPeelProps {
  fruit: string;
  peel_g: number;
  hours: number;
  warm_c: number;
}

/** What the peel of a jar weighs at the end: from it the house learns how much its own peel gives. */
export function SpentPeel({ fruit, peel_g, hours, warm_c }: SpentPeelProps) {
  const [spent, setSpent] = useState("");
  const teach = useAct(
    () =>
      expectOk(
        client.POST("/api/citrus/spent-peel", {
          body: {
            fruit,
            peel_g,
            spent_g: typed(spent) ?? 0,
            hours,
            warm_c,
          },
        }),
      ),
    () => setSpent(""),
  );
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-2 border-t border-line pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        teach.mutate();
      }}
    >
      <Field
        label="This jar's peel, rinsed and drained, weighs"
        unit="g"
        className="w-80"
        inputMode="decimal"
        value={spent}
        onChange={setSpent}
        fault={teach.fault("spent_g") ?? teach.fault("hours")}
      />
      <Button type="submit" disabled={teach.isPending || !spent.trim()}>
        Teach it
      </Button>
      <Trouble error={teach.fault("spent_g") || teach.fault("hours") ? null : teach.error} />
    </form>
  );
}
