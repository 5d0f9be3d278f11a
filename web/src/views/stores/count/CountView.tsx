import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, Problem, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { KnownField } from "../../../parts/KnownField";
import { Empty, NotFetched, Shape, Trouble } from "../../../parts/Notice";
import { figure, GAP, noNumber, typed } from "../../../parts/numbers";
import { clock } from "../../../parts/say";
import { canMake, useMoney, useSession } from "../../../session/session";
import { gapWords, type Row, walkPlaces } from "./walk";

/** A count of the whole shelf: one thing after another in the order in which it was walked last, and what lacks in money. */
export function CountView() {
  const session = useSession();
  const money = useMoney();
  const asked = useQuery(ask.stocktake());
  const [picked, setPicked] = useState<string | null>(null);
  const [skipped, setSkipped] = useState<ReadonlySet<string>>(new Set());
  const [books, setBooks] = useState(false);
  if (asked.isPending) return <Shape rows={7} title="Count the shelf" />;
  const { rows = [], counted = 0, total } = asked.data ?? {};
  const may = canMake(session);
  const next = rows.find((row) => !row.gap && !skipped.has(row.id));
  const here = (picked ? rows.find((row) => row.id === picked) : undefined) ?? (may ? next : undefined);
  const onward = (id: string, skip: boolean) => {
    setPicked(null);
    if (skip) setSkipped(new Set([...skipped, id]));
  };
  return (
    <main className="mx-auto max-w-[1100px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1 className="text-[32px]">Count the shelf</h1>
          <Link to="/stores" className="inline-flex min-h-11 items-center font-semibold text-rim underline">
            Back to Stores
          </Link>
        </div>
        <p role="status" className="text-[16px]">
          <b>
            {counted} of {rows.length}
          </b>{" "}
          counted today
          {total && counted ? (
            <>
              {" "}
              · lacks <b className="figures">{money(total.lacks)}</b> · over <b className="figures">{money(total.over)}</b>
              {total.unpriced ? ` · ${total.unpriced} without a price` : ""}
            </>
          ) : null}
        </p>
      </div>
      <NotFetched questions={[asked]} />
      {asked.data && !rows.length ? (
        <Empty title="Nothing stands here">Take in a delivery, or finish a batch, and it can be counted.</Empty>
      ) : null}
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-2">
        {here ? (
          <Counting key={here.id} row={here} books={books} onBooks={setBooks} onward={(skip) => onward(here.id, skip)} />
        ) : rows.length && may ? (
          <section className="tray p-4 md:p-5" aria-label="The count">
            <h2 className="text-[20px]">{counted === rows.length ? "Everything is counted" : "To the end of the shelf"}</h2>
            <p className="text-soft">
              {counted === rows.length
                ? "What lacked and what was over stands beside each."
                : `${rows.length - counted} were passed over: press one to count it after all.`}
            </p>
          </section>
        ) : null}
        <div className="grid gap-4">
          {walkPlaces(rows).map(({ place, rows: standing }) => (
            <section key={place} className="tray p-4" aria-label={place || "In no place yet"}>
              <h2 className="mb-1 text-[20px]">{place || "In no place yet"}</h2>
              <ul>
                {standing.map((row) => (
                  <li key={row.id} className="border-t border-line">
                    <button
                      type="button"
                      disabled={!may}
                      aria-current={here?.id === row.id ? "step" : undefined}
                      onClick={() => setPicked(row.id)}
                      className="grid min-h-12 w-full grid-cols-[22px_minmax(0,1fr)_auto] items-center gap-x-2 rounded-lg px-1 py-1 text-left hover:bg-pick aria-[current=step]:bg-pick"
                    >
                      <span aria-hidden="true" className="text-[18px]">
                        {row.gap ? "●" : "○"}
                      </span>
                      <span className="min-w-0">
                        <span className="block text-[15px] font-semibold">{row.name}</span>
                        <span className="block text-[14px] text-soft">
                          {row.code} · {row.about}
                        </span>
                      </span>
                      <span
                        className={`text-right text-[14px] ${row.gap?.amount ? "font-bold" : "text-soft"} ${row.gap && row.gap.amount < 0 ? "text-warn" : ""}`}
                      >
                        {row.gap ? gapWords(row, money) : "not counted"}
                        {row.gap && row.counted_at ? (
                          <span className="block font-normal text-soft">{clock(row.counted_at, session.zone)}</span>
                        ) : null}
                      </span>
                    </button>
                  </li>
                ))}
              </ul>
            </section>
          ))}
        </div>
      </div>
    </main>
  );
}

interface CountingProps {
  row: Row;
  books: boolean;
  onBooks: (shown: boolean) => void;
  onward: (skip: boolean) => void;
}

/** One thing that stands before the person: what is left of it, and where it stands if that has changed. */
function Counting({ row, books, onBooks, onward }: CountingProps) {
  const queries = useQueryClient();
  const [left, setLeft] = useState("");
  const [place, setPlace] = useState(row.place);
  const [fault, setFault] = useState<string>();
  const anew = () =>
    Promise.all([["stocktake"], ["stock"], ["lots"], ["shift"], ["plan"]].map((queryKey) => queries.invalidateQueries({ queryKey })));
  const send = (kind: "counted" | "moved", body: Record<string, unknown>) =>
    row.kind === "delivery"
      ? unwrap(client.POST("/api/stock/{stock_id}/events", { params: { path: { stock_id: row.id } }, body: { kind, body } }))
      : unwrap(client.POST("/api/lots/{code}/events", { params: { path: { code: row.id } }, body: { kind, body } }));
  const count = useMutation({
    mutationFn: async (amount: number) => {
      if (place.trim() !== row.place) await send("moved", { place });
      return send("counted", row.kind === "delivery" ? { left_g: amount } : { amount });
    },
    onSuccess: async () => {
      await anew();
      onward(false);
    },
  });
  const at = (where: string) => (count.error instanceof Problem && count.error.where.endsWith(where) ? count.error.detail : undefined);
  const amiss = at("left_g") ?? at("amount");
  return (
    <section className="tray p-4 md:p-5 lg:sticky lg:top-4" aria-label="The count">
      <h2 className="text-[26px]">{row.name}</h2>
      <p className="mb-3 text-soft">
        {row.code} · {row.about}
        {books ? ` · the books say ${figure(row.left, 0)}${GAP}${row.unit}` : ""}
      </p>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const amount = typed(left);
          if (amount === null) return setFault(noNumber(left, "850", "Type what is there; 0 for none."));
          count.mutate(amount);
        }}
      >
        <Field
          label={row.unit === "g" ? "What is left, without its tub" : "What is left"}
          unit={row.unit}
          size="bench"
          inputMode="decimal"
          value={left}
          onChange={(value) => {
            setLeft(value);
            setFault(undefined);
          }}
          fault={fault ?? amiss}
          autoFocus
        />
        <KnownField kind="place" label="Where it stands" value={place} onChange={setPlace} fault={at("place")} />
        <div className="flex flex-wrap gap-3">
          <Button look="main" type="submit" className="min-h-14 flex-1 rounded-xl text-[17px]" disabled={count.isPending}>
            That is left
          </Button>
          <Button className="min-h-14 rounded-xl text-[17px]" onClick={() => onward(true)}>
            Pass it over
          </Button>
        </div>
      </form>
      <label className="mt-2 flex min-h-11 items-center gap-2 text-[15px]">
        <input type="checkbox" checked={books} onChange={(event) => onBooks(event.target.checked)} />
        Show what the books say before it is counted
      </label>
      <Trouble error={amiss || at("place") ? null : count.error} />
    </section>
  );
}
