import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";

interface HowLongGoodProps {
  panel: Schemas["PanelOut"];
  may: boolean;
}

const dayWords = (days: number) => (days === 1 ? "1 day" : `${days} days`);

/** What an older bottle showed beside a younger one, and the shorter date that a lead may set by it. */
export function HowLongGood({ panel, may }: HowLongGoodProps) {
  const queries = useQueryClient();
  const [form, setForm] = useState<{ days: string; why: string } | null>(null);
  const set = useMutation({
    mutationFn: ({ days, why }: { days: string; why: string }) =>
      unwrap(
        client.POST("/api/panels/{panel_id}/shorter-date", {
          params: { path: { panel_id: panel.id } },
          body: { days: typed(days) ?? 0, why },
        }),
      ),
    onSuccess: () => {
      setForm(null);
      for (const key of ["panels", "lots", "lot", "rules", "shift"]) void queries.invalidateQueries({ queryKey: [key] });
    },
  });
  const { age } = panel;
  if (!age) return null;
  const { days } = age;
  const faults = faultsOf(set.error);
  return (
    <section className="tray grid gap-2 p-4 md:p-5" aria-label="How long it is good">
      <h2 className="text-[20px]">How long it is good</h2>
      <p className="text-[17px] font-bold">{age.words}</p>
      {age.caution ? <p>{age.caution}</p> : null}
      {age.stands ? <p className="text-soft">{age.stands}</p> : null}
      {set.data ? <TurnSooner lots={set.data.lots} /> : null}
      {days !== null && may ? (
        <div>
          <Button look="main" onClick={() => setForm({ days: String(days), why: age.words })}>
            Set {dayWords(days)}
          </Button>
        </div>
      ) : null}
      <Sheet
        open={form !== null}
        onClose={() => setForm(null)}
        title="A shorter date"
        about="For every bottle that stands there and every batch from now on. The safety date stays; nothing here makes a date longer."
      >
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (form) set.mutate(form);
          }}
        >
          <Field
            label="Good for"
            unit="days"
            inputMode="numeric"
            value={form?.days ?? ""}
            onChange={(text) => setForm((before) => (before ? { ...before, days: text } : before))}
            fault={faults.days}
          />
          <Field
            label="Why"
            value={form?.why ?? ""}
            onChange={(text) => setForm((before) => (before ? { ...before, why: text } : before))}
            fault={faults.why}
          />
          <Trouble error={restOf(set.error, ["days", "why"])} />
          <Button look="main" type="submit" disabled={set.isPending}>
            Set it, in my name
          </Button>
        </form>
      </Sheet>
    </section>
  );
}

function TurnSooner({ lots }: { lots: readonly string[] }) {
  if (!lots.length) return <p role="status">It is set. No bottle that stands there turns sooner.</p>;
  return (
    <div role="status">
      <p className="font-semibold text-warn">
        {lots.length === 1 ? "One bottle turns" : `${lots.length} bottles turn`} sooner now. Their labels say the old day: print them anew.
      </p>
      <p className="flex flex-wrap gap-x-4">
        {lots.map((lot) => (
          <Link key={lot} to={`/lots/${lot}`} className="figures inline-flex min-h-11 items-center font-semibold text-rim hover:underline">
            {lot}
          </Link>
        ))}
      </p>
    </div>
  );
}
