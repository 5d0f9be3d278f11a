import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { PageNotFetched, Shape } from "../../../parts/Notice";
import { figure } from "../../../parts/numbers";

const LETTERS = "ABCDEFGHIJKL";

/** The key, for who pours and nobody else: which code stands on which glass, and what goes into it. */
export function PourView() {
  const { panel = "" } = useParams();
  const key = useQuery(ask.pouring(panel));
  const [done, setDone] = useState<readonly string[]>([]);
  if (key.isPending) return <Shape rows={5} title="The pourer's sheet" />;
  if (!key.data) return <PageNotFetched title="The pourer's sheet" question={key} />;
  const { data } = key;
  const rounds = [...new Set(data.sets.map((item) => item.round))];
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
        <h1 className="text-[30px]">The pourer's sheet</h1>
        <p className="font-semibold text-warn">Nobody who tastes looks at this.</p>
      </div>
      <section className="tray mb-3.5 grid gap-2 p-4 md:p-5" aria-label="What is needed">
        <h2 className="text-[20px]">Have ready</h2>
        <ul className="grid gap-1">
          {data.names.map((name, n) => (
            <li key={name} className="flex flex-wrap items-baseline gap-x-3">
              <b className="figures text-[22px] text-rim">{LETTERS[n]}</b>
              <b>{name}</b>
              <span className="text-soft">
                {figure(data.needed_ml[n] ?? 0, 0)} mL in all
                {data.pours?.[n] ? ` · ${figure(data.pours[n].ml, 1)} mL to a drink` : ""}
              </span>
            </li>
          ))}
        </ul>
        {data.thaw.map((words) => (
          <p key={words} className="font-semibold">
            {words}
          </p>
        ))}
        <p className="text-soft">
          {figure(data.glass_ml, 0)} mL into each glass{data.dark_glasses ? ", dark glasses" : ""}, all at one temperature. A spittoon and
          water for everybody.
        </p>
      </section>
      {rounds.map((round) => (
        <section key={round} className="tray mb-3.5 p-4 md:p-5" aria-label={`Round ${round}`}>
          <h2 className="mb-2 text-[20px]">{rounds.length > 1 ? `Round ${round}` : "The glasses"}, from left to right</h2>
          <ul className="grid gap-2 md:grid-cols-2">
            {data.sets
              .filter((item) => item.round === round)
              .map((item) => (
                <PouredRow
                  key={item.seat}
                  set={item}
                  isDone={done.includes(`${round} ${item.seat}`)}
                  onDone={() => setDone((before) => [...before, `${round} ${item.seat}`])}
                />
              ))}
          </ul>
        </section>
      ))}
      <Link
        to={`/taste/${panel}`}
        className="act inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 font-semibold text-rim"
      >
        Back to the table
      </Link>
    </main>
  );
}

function PouredRow({ set, isDone, onDone }: { set: Schemas["PouredSet"]; isDone: boolean; onDone: () => void }) {
  return (
    <li className={`flex flex-wrap items-center justify-between gap-2 rounded-xl px-3 py-2 ${isDone ? "bg-pick" : "bg-quiet"}`}>
      <span className="w-24">
        seat <b>{set.seat}</b>
        {set.taster ? <span className="block text-[15px] text-soft">{set.taster}</span> : null}
      </span>
      <span className="flex flex-wrap gap-2">
        {set.glasses.map((glass) => (
          <span key={glass.code} className="figures rounded-lg border border-rim bg-enamel px-2.5 py-1 text-[18px]">
            {glass.code} <b className="text-rim">{LETTERS[glass.sample]}</b>
          </span>
        ))}
      </span>
      <Button look="quiet" disabled={isDone} onClick={onDone}>
        {isDone ? "✓ poured" : "Poured"}
      </Button>
    </li>
  );
}
