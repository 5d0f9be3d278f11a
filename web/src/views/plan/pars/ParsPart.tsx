import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { client, expectOk, Problem, type Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Empty, NotFetched, Shape, Trouble } from "../../../parts/Notice";
import { figure, GAP, typed } from "../../../parts/numbers";
import { span } from "../../../parts/say";
import { canLead, useSession } from "../../../session/session";
import { TillFile } from "./TillFile";
import { UnusualDays } from "./UnusualDays";
import { WEEKDAYS, weekOf } from "./week";

type ParRow = Schemas["ParOut"];

/** How much of each prep must stand there when each day of a usual week opens; and the days that are not usual. */
export function ParsPart({ tabs }: { tabs: ReactNode }) {
  const session = useSession();
  const pars = useQuery(ask.planPars());
  const [find, setFind] = useState("");
  const lead = canLead(session);
  const rows = pars.data ?? [];
  const sought = find.trim().toLowerCase();
  const shown = rows.filter((row) => (sought ? row.name.toLowerCase().includes(sought) : row.must_ml || row.by_use));
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <h1 className="text-[32px]">Pars and days</h1>
        {tabs}
      </div>
      <section className="tray p-4 md:p-5" aria-label="Pars">
        <div className="mb-2 flex flex-wrap items-end justify-between gap-3">
          <div>
            <h2 className="text-[20px]">What must stand there</h2>
            <p className="text-[15px] text-soft">In mL, in date, when the house opens. 0 is a day on which none is needed.</p>
          </div>
          <Field
            label="Find a prep"
            hideLabel
            placeholder="find a prep to give it a par"
            className="w-full sm:w-72"
            value={find}
            onChange={setFind}
          />
        </div>
        {pars.isPending ? <Shape rows={5} /> : null}
        <NotFetched questions={[pars]} />
        {pars.data && !shown.length ? (
          <Empty title={sought ? "No prep is called that" : "Nothing has a par yet"}>
            {sought ? "Only what is published can have one." : "Find a prep above, and write how much of it must stand there on each day."}
          </Empty>
        ) : null}
        <ul>
          {shown.map((row) => (
            <ParLine key={`${row.spec} ${row.must_ml?.join()}`} row={row} may={lead} />
          ))}
        </ul>
      </section>
      {lead ? <TillFile /> : null}
      <UnusualDays may={lead} preps={rows.filter((row) => row.must_ml)} />
    </>
  );
}

function ParLine({ row, may }: { row: ParRow; may: boolean }) {
  const queries = useQueryClient();
  const before = WEEKDAYS.map((_, n) => (row.must_ml ? figure(row.must_ml[n] ?? 0, 0).replaceAll(GAP, "") : ""));
  const [week, setWeek] = useState(before);
  const keep = useMutation({
    mutationFn: (must_ml: number[]) =>
      expectOk(client.PUT("/api/plan/pars/{spec_id}", { params: { path: { spec_id: row.spec } }, body: { must_ml } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["plan"] }),
  });
  const take = useMutation({
    mutationFn: () => expectOk(client.POST("/api/plan/pars/{spec_id}/by-use", { params: { path: { spec_id: row.spec } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["plan"] }),
  });
  const changed = week.some((value, n) => value !== before[n]);
  const read = weekOf(week);
  const wrong = keep.error instanceof Problem ? keep.error.where.split("/")[1] : undefined;
  return (
    <li className="border-t border-line py-3 first:border-t-0">
      <form
        className="grid items-end gap-x-4 gap-y-2 lg:grid-cols-[minmax(0,1fr)_auto_200px]"
        onSubmit={(event) => {
          event.preventDefault();
          if (read) keep.mutate(read);
        }}
      >
        <p>
          <b className="text-[17px]">{row.name}</b>
          <span className="block text-[14px] text-soft">
            bottles of {figure(row.bottle_ml, 0)}
            {GAP}mL · takes {span(row.takes_min * 60_000)} · keeps {row.keeps_days} {row.keeps_days === 1 ? "day" : "days"}
          </span>
        </p>
        <div className="grid grid-cols-4 gap-1.5 sm:grid-cols-7">
          {WEEKDAYS.map((day, n) => (
            <Field
              key={day}
              label={day.slice(0, 3)}
              aria-label={`${row.name} on ${day}`}
              inputMode="numeric"
              className="w-[72px]"
              value={week[n] ?? ""}
              disabled={!may}
              {...(wrong === day.toLowerCase() ? { "aria-invalid": true } : {})}
              onChange={(value) => setWeek(week.map((one, at) => (at === n ? value : one)))}
            />
          ))}
        </div>
        {may ? (
          <div className="flex flex-wrap gap-2">
            {changed ? (
              <Button look="main" type="submit" disabled={!read || keep.isPending}>
                Keep
              </Button>
            ) : null}
            {changed && week[0] && typed(week[0]) !== null && week.slice(1).every((value, n) => value === before[n + 1]) ? (
              <Button look="quiet" onClick={() => setWeek(week.map(() => week[0] ?? ""))}>
                Every day
              </Button>
            ) : null}
            {row.must_ml && !changed ? (
              <Button look="quiet" onClick={() => keep.mutate([])} aria-label={`No par for ${row.name}`}>
                No par
              </Button>
            ) : null}
          </div>
        ) : null}
      </form>
      {changed && !read ? (
        <p className="mt-1 text-[14px] font-semibold text-warn">Write a number of millilitres for each day; 0 for none.</p>
      ) : null}
      {row.by_use ? (
        <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1 text-[15px]">
          <p>
            By what was used: <b className="figures">{row.by_use.must_ml.map((ml) => figure(ml, 0)).join(" · ")}</b>{" "}
            <span className="text-soft">{row.by_use.said}</span>
          </p>
          {may && row.by_use.must_ml.join() !== row.must_ml?.join() ? (
            <Button aria-label={`Take the par by use for ${row.name}`} onClick={() => take.mutate()} disabled={take.isPending}>
              Take it
            </Button>
          ) : null}
        </div>
      ) : null}
      <Trouble error={keep.error ?? take.error} />
    </li>
  );
}
