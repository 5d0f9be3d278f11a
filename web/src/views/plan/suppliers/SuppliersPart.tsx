import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Empty, NotFetched, Shape, Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { canLead, useSession } from "../../../session/session";
import { WEEKDAYS } from "../pars/week";

/** When suppliers deliver, and by when it has to be ordered. */
export function SuppliersPart({ tabs }: { tabs: ReactNode }) {
  const session = useSession();
  const suppliers = useQuery(ask.planSuppliers());
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <h1 className="text-[32px]">Suppliers</h1>
        {tabs}
      </div>
      <NotFetched questions={[suppliers]} />
      {suppliers.isPending ? <Shape rows={4} /> : null}
      {suppliers.data?.length === 0 ? (
        <div className="tray p-4">
          <Empty title="No supplier is written down">
            Suppliers stand in the{" "}
            <Link to="/house/register" className="font-semibold text-rim underline">
              house's register
            </Link>
            . Until then lists go by usual terms: ordered the afternoon before, not on Sundays.
          </Empty>
        </div>
      ) : null}
      <ul className="grid gap-3.5 lg:grid-cols-2">
        {suppliers.data?.map((one) => (
          <SupplierLine key={`${one.supplier} ${JSON.stringify(one)}`} terms={one} may={canLead(session)} />
        ))}
      </ul>
    </>
  );
}

function SupplierLine({ terms, may }: { terms: Schemas["TermsOut"]; may: boolean }) {
  const queries = useQueryClient();
  const [weekdays, setWeekdays] = useState<readonly number[]>(terms.weekdays);
  const [cutOff, setCutOff] = useState(terms.cut_off);
  const [lead, setLead] = useState(`${terms.lead_days}`);
  const [arrives, setArrives] = useState(terms.arrives);
  const keep = useMutation({
    mutationFn: () =>
      unwrap(
        client.PUT("/api/plan/suppliers/{entry_id}", {
          params: { path: { entry_id: terms.entry } },
          body: { weekdays: [...weekdays], cut_off: cutOff, lead_days: typed(lead) ?? 0, arrives },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["plan"] }),
  });
  const changed =
    weekdays.join() !== terms.weekdays.join() || cutOff !== terms.cut_off || lead !== `${terms.lead_days}` || arrives !== terms.arrives;
  return (
    <li className="tray p-4">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate();
        }}
      >
        <div className="flex flex-wrap items-baseline justify-between gap-3">
          <h2 className="text-[20px]">{terms.supplier}</h2>
          {terms.is_usual ? <span className="text-[15px] text-soft">nobody has said: usual terms</span> : null}
        </div>
        <fieldset className="flex flex-wrap gap-1.5" disabled={!may}>
          <legend className="mb-1 text-[14px] text-soft">Delivers on</legend>
          {WEEKDAYS.map((name, n) => (
            <label
              key={name}
              className={`inline-flex min-h-11 min-w-14 cursor-pointer items-center justify-center gap-1.5 rounded-xl border px-2.5 ${weekdays.includes(n) ? "border-rim bg-pick font-semibold" : "border-line"}`}
            >
              <input
                type="checkbox"
                className="size-4 accent-rim"
                aria-label={`${terms.supplier} delivers on ${name}`}
                checked={weekdays.includes(n)}
                onChange={(event) => setWeekdays(event.target.checked ? [...weekdays, n].sort() : weekdays.filter((one) => one !== n))}
              />
              {name.slice(0, 3)}
            </label>
          ))}
        </fieldset>
        <div className="flex flex-wrap items-end gap-3">
          <Field label="Order until" type="time" value={cutOff} onChange={setCutOff} disabled={!may} className="w-32" />
          <Field label="days before" inputMode="numeric" value={lead} onChange={setLead} disabled={!may} className="w-24" />
          <Field label="Comes at" type="time" value={arrives} onChange={setArrives} disabled={!may} className="w-32" />
          {may && changed ? (
            <Button look="main" type="submit" disabled={keep.isPending || typed(lead) === null}>
              Keep
            </Button>
          ) : null}
        </div>
        <Trouble error={keep.error} />
      </form>
    </li>
  );
}
