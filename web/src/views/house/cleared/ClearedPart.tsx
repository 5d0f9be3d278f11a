import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { rowsOf } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { More } from "../../../parts/More";
import { Empty, NotFetched, Shape, Trouble } from "../../../parts/Notice";
import { Sheet } from "../../../parts/Sheet";
import { Sideways } from "../../../parts/Sideways";
import { day } from "../../../parts/say";
import { canLead, useSession } from "../../../session/session";
import { LEVELS, levelOf } from "./levels";

type Row = Schemas["SpecPractice"];
type Practice = Schemas["Practice"];
type Person = Schemas["PersonRow"];

/** Who may make what: for each spec how far each person has come, from reading it to being cleared. A press says all of it, and clears. */
export function ClearedPart() {
  const people = useQuery(ask.people());
  const [find, setFind] = useState("");
  const rows = useInfiniteQuery(ask.clearances(useDeferredValue(find)));
  const [open, setOpen] = useState<{ row: string; person: number } | null>(null);
  const found = rowsOf(rows.data);
  const makers = (people.data ?? []).filter((person) => person.role !== "reader");
  const row = found.find((item) => item.id === open?.row);
  const person = makers.find((item) => item.id === open?.person);
  return (
    <section className="tray p-5" aria-label="Who makes what">
      <div className="mb-3 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h2 className="text-[20px]">Who makes what</h2>
          <p className="text-soft">
            Nobody is kept from making anything: people call in sick. Once you clear the first person, a batch by somebody who is not
            cleared is noted.
          </p>
        </div>
        <Field label="Find a spec" value={find} onChange={setFind} className="w-56" />
      </div>
      <ul className="mb-3 flex flex-wrap gap-x-5 gap-y-1 text-[14px] text-soft" aria-label="What the marks mean">
        {LEVELS.map((level) => (
          <li key={level.mark}>
            <b className="figures mr-1 text-ink">{level.mark}</b>
            {level.word}
          </li>
        ))}
      </ul>
      <NotFetched questions={[rows, people]} />
      {rows.isPending || people.isPending ? <Shape rows={5} /> : null}
      {rows.data && found.length === 0 ? (
        <Empty title="Nothing is published yet">Every published spec stands here with who can make it.</Empty>
      ) : null}
      {found.length ? (
        <Sideways label="The matrix">
          <table className="w-full border-collapse text-left">
            <thead>
              <tr>
                <th scope="col" className="py-2 pr-4 text-[14px] font-normal text-soft">
                  Spec
                </th>
                {makers.map((item) => (
                  <th key={item.id} scope="col" className="px-2 py-2 text-center text-[15px]">
                    {item.name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {found.map((item) => (
                <tr key={item.id} className="border-t border-line">
                  <th scope="row" className="py-1 pr-4 font-semibold">
                    {item.name}
                    <span className="block text-[14px] font-normal text-soft">version {item.version}</span>
                  </th>
                  {makers.map((maker) => (
                    <td key={maker.id} className="px-1 py-1 text-center">
                      <Cell
                        practice={item.people.find((one) => one.person === maker.id)}
                        label={`${maker.name}, ${item.name}`}
                        onOpen={() => setOpen({ row: item.id, person: maker.id })}
                      />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </Sideways>
      ) : null}
      <More list={rows} />
      <Sheet
        open={row !== undefined && person !== undefined}
        onClose={() => setOpen(null)}
        title={person && row ? `${person.name}: ${row.name.toLowerCase()}` : ""}
      >
        {person && row ? <WhatTheyDid row={row} person={person} /> : null}
      </Sheet>
    </section>
  );
}

function Cell({ practice, label, onOpen }: { practice: Practice | undefined; label: string; onOpen: () => void }) {
  const level = levelOf(practice);
  return (
    <button
      type="button"
      onClick={onOpen}
      aria-label={`${label}: ${level.word}`}
      className={`figures inline-grid min-h-11 min-w-14 place-items-center rounded-xl border text-[18px] ${
        level.mark === "✓" ? "border-rim bg-rim font-bold text-on-rim" : "border-line hover:bg-pick"
      }`}
    >
      {level.mark}
    </button>
  );
}

function WhatTheyDid({ row, person }: { row: Row; person: Person }) {
  const session = useSession();
  const queries = useQueryClient();
  const did = row.people.find((one) => one.person === person.id);
  const clear = useMutation({
    mutationFn: (cleared: boolean) =>
      unwrap(
        client.PUT("/api/specs/{spec_id}/clearances/{person_id}", {
          params: { path: { spec_id: row.id, person_id: person.id } },
          body: { cleared },
        }),
      ),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["own", "clearances"] }),
  });
  const on = (at: string | null | undefined, absent: string) => (at ? day(at, session.zone) : absent);
  const facts: [string, string][] = [
    [`Read version ${row.version}`, on(did?.read_at, "not yet")],
    ["Rehearsed it", on(did?.rehearsed_at, "not yet")],
    ["Made it beside somebody", did?.beside_at ? `${on(did.beside_at, "")}, with ${did.beside.join(", ")}` : "not in the last year"],
    ["Made it", did?.made ? `${did.made} times, last ${on(did.made_at, "")}` : "not yet"],
    ["Cleared", did?.cleared_at ? `by ${did.cleared_by}, ${on(did.cleared_at, "")}` : "not yet"],
  ];
  return (
    <>
      <dl>
        {facts.map(([what, when]) => (
          <div key={what} className="flex flex-wrap justify-between gap-3 border-t border-line py-2 first:border-0">
            <dt className="text-soft">{what}</dt>
            <dd className="font-semibold">{when}</dd>
          </div>
        ))}
      </dl>
      <Trouble error={clear.error} />
      {canLead(session) ? (
        <Button
          className="mt-3"
          look={did?.cleared_at ? "warn" : "main"}
          disabled={clear.isPending}
          onClick={() => clear.mutate(!did?.cleared_at)}
        >
          {did?.cleared_at ? "Take the clearance back" : `Clear ${person.name} for it`}
        </Button>
      ) : null}
    </>
  );
}
