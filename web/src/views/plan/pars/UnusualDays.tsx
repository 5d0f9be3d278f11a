import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, expectOk, Problem, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { dateIn } from "../../../parts/days";
import { Field } from "../../../parts/Field";
import { NotFetched, Trouble } from "../../../parts/Notice";
import { figure, GAP, typed } from "../../../parts/numbers";
import { day as dayWords } from "../../../parts/say";
import { useSession } from "../../../session/session";

/** Days that are not usual: a party, a closed day, so much more of one prep. */
export function UnusualDays({ may, preps }: { may: boolean; preps: readonly Schemas["ParOut"][] }) {
  const queries = useQueryClient();
  const days = useQuery(ask.planDays());
  const anew = { onSuccess: () => queries.invalidateQueries({ queryKey: ["plan"] }) };
  const drop = useMutation({
    mutationFn: (day: string) => expectOk(client.DELETE("/api/plan/days/{day}", { params: { path: { day } } })),
    ...anew,
  });
  const named = new Map(preps.map((prep) => [prep.key, prep.name]));
  return (
    <section className="tray mt-3.5 p-4 md:p-5" aria-label="Days that are not usual">
      <h2 className="text-[20px]">Days that are not usual</h2>
      <p className="mb-2 text-[15px] text-soft">
        A party of sixty, a day on which the house is closed: the pars of that day are so many times the usual ones.
      </p>
      <NotFetched questions={[days]} />
      <ul>
        {days.data?.map((one) => (
          <li key={one.day} className="flex min-h-12 flex-wrap items-center justify-between gap-x-4 gap-y-1 border-t border-line py-1.5">
            <span>
              <b>{dayWords(one.day)}</b> {one.name}
              <span className="text-soft">
                {" "}
                · {one.times === 0 ? "nothing is needed" : `${figure(one.times, 2)} times a usual day`}
                {Object.entries(one.must_ml).map(([key, ml]) => ` · ${figure(ml, 0)}${GAP}mL of ${named.get(key) ?? key}`)}
              </span>
            </span>
            {may ? (
              <Button look="quiet" aria-label={`${dayWords(one.day)} is a usual day`} onClick={() => drop.mutate(one.day)}>
                A usual day
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
      {may ? <AddDay preps={preps} /> : null}
      <Trouble error={drop.error} />
    </section>
  );
}

const NONE = "none";

function AddDay({ preps }: { preps: readonly Schemas["ParOut"][] }) {
  const session = useSession();
  const queries = useQueryClient();
  const today = dateIn(session, Date.now());
  const [day, setDay] = useState("");
  const [name, setName] = useState("");
  const [times, setTimes] = useState("1.5");
  const [prep, setPrep] = useState(NONE);
  const [ml, setMl] = useState("");
  const body = (): Schemas["DayChangeIn"] => ({
    name,
    times: typed(times) ?? 1,
    must_ml: prep === NONE ? {} : { [prep]: typed(ml) ?? 0 },
  });
  const add = useMutation({
    mutationFn: () => unwrap(client.PUT("/api/plan/days/{day}", { params: { path: { day } }, body: body() })),
    onSuccess: () => {
      setDay("");
      setName("");
      return queries.invalidateQueries({ queryKey: ["plan"] });
    },
  });
  const fault = (where: string) => (add.error instanceof Problem && add.error.where === where ? add.error.detail : undefined);
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-3 border-t border-line pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (day) add.mutate();
      }}
    >
      <Field label="Day" type="date" min={today} value={day} onChange={setDay} className="w-44" fault={fault("day")} />
      <Field label="What it is" placeholder="party of 60" value={name} onChange={setName} className="w-48" fault={fault("name")} />
      <Field label="Times a usual day" inputMode="decimal" value={times} onChange={setTimes} className="w-32" fault={fault("times")} />
      {preps.length ? (
        <>
          <Choice
            label="Of one prep so much"
            value={prep}
            options={[{ value: NONE, label: "the same of everything" }, ...preps.map((one) => ({ value: one.key, label: one.name }))]}
            onChange={setPrep}
          />
          {prep === NONE ? null : (
            <Field
              label="Must stand there"
              unit="mL"
              inputMode="numeric"
              value={ml}
              onChange={setMl}
              className="w-40"
              fault={fault(`must_ml/${prep}`)}
            />
          )}
        </>
      ) : null}
      <Button type="submit" disabled={!day || typed(times) === null || (prep !== NONE && typed(ml) === null)}>
        Write it down
      </Button>
      {add.error && !fault("day") && !fault("times") ? <Trouble error={add.error} /> : null}
    </form>
  );
}
