import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { rowsOf } from "../../../api/lists";
import { ask, type HistoryWish } from "../../../api/queries";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { More } from "../../../parts/More";
import { Empty, NotFetched, Shape } from "../../../parts/Notice";
import { moment } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { actWords } from "./acts";

const EVERY = "every";

/** What was done in the house, by whom and when: found by person, act, day and words, and taken out as a table. */
export function HistoryPart() {
  const { zone } = useSession();
  const people = useQuery(ask.people());
  const kinds = useQuery(ask.historyKinds());
  const [find, setFind] = useState("");
  const [person, setPerson] = useState(EVERY);
  const [action, setAction] = useState(EVERY);
  const [since, setSince] = useState("");
  const [until, setUntil] = useState("");
  const wish: HistoryWish = {
    find: useDeferredValue(find),
    ...(person === EVERY ? {} : { person: Number(person) }),
    ...(action === EVERY ? {} : { action }),
    ...(since ? { since } : {}),
    ...(until ? { until } : {}),
  };
  const rows = useInfiniteQuery(ask.history(wish));
  const found = rowsOf(rows.data);
  const table = new URLSearchParams(Object.entries(wish).map(([name, value]) => [name, String(value)]));
  return (
    <section className="tray p-5" aria-label="History of the house">
      <div className="mb-3 flex flex-wrap items-end gap-2">
        <Field label="Find" value={find} onChange={setFind} className="min-w-48 flex-1" />
        <Choice
          label="By whom"
          value={person}
          options={[
            { value: EVERY, label: "by anybody" },
            ...(people.data ?? []).map((row) => ({ value: String(row.id), label: row.name })),
          ]}
          onChange={setPerson}
        />
        <Choice
          label="Which act"
          value={action}
          options={[{ value: EVERY, label: "every act" }, ...(kinds.data ?? []).map((kind) => ({ value: kind, label: actWords(kind) }))]}
          onChange={setAction}
        />
        <Field label="From" type="date" value={since} onChange={setSince} />
        <Field label="Until" type="date" value={until} onChange={setUntil} />
        <a
          href={`/api/history.csv?${table}`}
          className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
        >
          As a table
        </a>
      </div>
      <NotFetched questions={[rows, people, kinds]} />
      {rows.isPending ? <Shape rows={6} /> : null}
      {rows.data && found.length === 0 ? <Empty title="Nothing of that">Every act of the house stands here from now on.</Empty> : null}
      <ul>
        {found.map((row) => (
          <li key={row.id} className="grid gap-x-4 border-t border-line py-2 sm:grid-cols-[11rem_9rem_minmax(0,1fr)]">
            <span className="figures text-[15px] text-soft">{moment(row.at, zone)}</span>
            <span className="font-semibold">{row.by}</span>
            <span>
              {actWords(row.action)} · {row.subject}
            </span>
          </li>
        ))}
      </ul>
      <More list={rows} />
    </section>
  );
}
