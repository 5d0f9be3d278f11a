import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { client, expectOk, Problem, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { dateIn } from "../../../parts/days";
import { Field } from "../../../parts/Field";
import { NotFetched, Notice, Shape, Trouble } from "../../../parts/Notice";
import { day } from "../../../parts/say";
import { canLead, canMake, useSession } from "../../../session/session";
import { WEEKDAYS } from "../pars/week";

type Person = Schemas["HoursOut"];
type Span = [string, string];

/** When everybody who makes things has time for it, and who is away. */
export function PeoplePart({ tabs }: { tabs: ReactNode }) {
  const session = useSession();
  const people = useQuery({ ...ask.planPeople(), enabled: canMake(session) });
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <h1 className="text-[32px]">Who is in</h1>
        {tabs}
      </div>
      {canMake(session) ? null : <Notice severity="note">Who is in when is shown to those who make things.</Notice>}
      <NotFetched questions={[people]} />
      {people.isPending && canMake(session) ? <Shape rows={4} /> : null}
      {people.data?.every((one) => !one.week) ? (
        <div className="mb-3">
          <Notice severity="note">Nobody's hours are written down: lists go by the clock alone, without names.</Notice>
        </div>
      ) : null}
      <ul className="grid gap-3.5">
        {people.data?.map((one) => (
          <PersonLine key={`${one.person} ${JSON.stringify(one.week)}`} person={one} lead={canLead(session)} />
        ))}
      </ul>
    </>
  );
}

const spansOf = (week: Person["week"]): Span[] => WEEKDAYS.map((_, n) => [week?.[n]?.[0] ?? "", week?.[n]?.[1] ?? ""]);

function PersonLine({ person, lead }: { person: Person; lead: boolean }) {
  const queries = useQueryClient();
  const anew = { onSuccess: () => queries.invalidateQueries({ queryKey: ["plan"] }) };
  const [spans, setSpans] = useState(() => spansOf(person.week));
  const keep = useMutation({
    mutationFn: (week: ([string, string] | null)[]) =>
      expectOk(client.PUT("/api/plan/people/{person_id}/hours", { params: { path: { person_id: person.person } }, body: { week } })),
    ...anew,
  });
  const back = useMutation({
    mutationFn: (id: number) => expectOk(client.DELETE("/api/plan/away/{away_id}", { params: { path: { away_id: id } } })),
    ...anew,
  });
  const changed = JSON.stringify(spans) !== JSON.stringify(spansOf(person.week));
  const set = (n: number, part: 0 | 1, value: string) =>
    setSpans(spans.map((one, at): Span => (at !== n ? one : part === 0 ? [value, one[1]] : [one[0], value])));
  const wrong = keep.error instanceof Problem ? keep.error.where.split("/")[1] : undefined;
  return (
    <li className="tray p-4">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate(spans.map((one) => (one[0] || one[1] ? one : null)));
        }}
      >
        <div className="mb-2 flex flex-wrap items-center justify-between gap-3">
          <h2 className="text-[20px]">{person.name}</h2>
          <div className="flex flex-wrap gap-2">
            {lead && changed ? (
              <Button look="main" type="submit" disabled={keep.isPending}>
                Keep the hours
              </Button>
            ) : null}
            {lead && person.week && !changed ? (
              <Button look="quiet" onClick={() => keep.mutate([])}>
                Say nothing of {person.name}
              </Button>
            ) : null}
          </div>
        </div>
        <div className="grid grid-cols-2 gap-2 sm:grid-cols-4 lg:grid-cols-7">
          {WEEKDAYS.map((name, n) => (
            <fieldset
              key={name}
              className={`flex items-end gap-1 rounded-xl border p-2 pt-1 ${wrong === name.toLowerCase() ? "border-warn" : "border-line"}`}
            >
              <legend className="px-1 text-[14px] font-semibold">{name}</legend>
              {([0, 1] as const).map((part) => (
                <Field
                  key={part}
                  hideLabel
                  inputMode="numeric"
                  placeholder={part === 0 ? "from" : "until"}
                  className="min-w-0 flex-1"
                  label={`${person.name} on ${name}, ${part === 0 ? "from" : "until"}`}
                  value={spans[n]?.[part] ?? ""}
                  disabled={!lead}
                  onChange={(value) => set(n, part, value)}
                />
              ))}
            </fieldset>
          ))}
        </div>
      </form>
      <ul>
        {person.away.map((one) => (
          <li key={one.id} className="mt-2 flex min-h-11 flex-wrap items-center justify-between gap-3">
            <span>away {one.first === one.last ? `on ${day(one.first)}` : `from ${day(one.first)} to ${day(one.last)}`}</span>
            <Button look="quiet" onClick={() => back.mutate(one.id)}>
              {person.name} is in after all
            </Button>
          </li>
        ))}
      </ul>
      <AwayForm person={person} />
      <Trouble error={keep.error ?? back.error} />
    </li>
  );
}

function AwayForm({ person }: { person: Person }) {
  const session = useSession();
  const queries = useQueryClient();
  const today = dateIn(session, Date.now());
  const [first, setFirst] = useState("");
  const [last, setLast] = useState("");
  const away = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/plan/people/{person_id}/away", {
          params: { path: { person_id: person.person } },
          body: { first: first || null, last: last || null },
        }),
      ),
    onSuccess: () => {
      setFirst("");
      setLast("");
      return queries.invalidateQueries({ queryKey: ["plan"] });
    },
  });
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        away.mutate();
      }}
    >
      <Field label="Away from" type="date" min={today} value={first} onChange={setFirst} className="w-44" />
      <Field label="to, that day too" type="date" min={first || today} value={last} onChange={setLast} className="w-44" />
      <Button type="submit">{first ? "Away then" : "Away today"}</Button>
      <Trouble error={away.error} />
    </form>
  );
}
