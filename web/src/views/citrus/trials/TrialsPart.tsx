import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { rowsOf } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { More } from "../../../parts/More";
import { Empty, NotFetched, Trouble } from "../../../parts/Notice";
import { figure, typed } from "../../../parts/numbers";
import { Sideways } from "../../../parts/Sideways";
import { day } from "../../../parts/say";
import { canMake, useMoney, useSession } from "../../../session/session";
import { FruitChoice } from "../common/FruitChoice";
import { useAct } from "../common/useAct";

/** Yield trials with an honest verdict, and the ledger of what the fruit became. */
export function TrialsPart() {
  return (
    <div className="grid gap-4 [&>*]:min-w-0 lg:grid-cols-2">
      <Trials />
      <Ledger />
    </div>
  );
}

function Trials() {
  const session = useSession();
  const found = useInfiniteQuery(ask.trials());
  const [form, setForm] = useState({ fruit: "bergamot", first: "as it comes", second: "warmed and rolled" });
  const [pairs, setPairs] = useState<[string, string][]>([
    ["", ""],
    ["", ""],
    ["", ""],
  ]);
  const put = (key: keyof typeof form) => (value: string) => setForm((before) => ({ ...before, [key]: value }));
  const whole = pairs
    .map(([a, b]) => [typed(a), typed(b)] as const)
    .filter((pair): pair is [number, number] => pair[0] !== null && pair[1] !== null);
  const keep = useAct(
    () => unwrap(client.POST("/api/citrus/trials", { body: { ...form, pairs: whole } })),
    () =>
      setPairs([
        ["", ""],
        ["", ""],
        ["", ""],
      ]),
  );
  return (
    <section className="tray grid content-start gap-4 p-4" aria-label="Yield trials">
      <h2 className="text-[20px]">Two ways, side by side</h2>
      {canMake(session) ? (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            keep.mutate();
          }}
        >
          <p className="text-[15px] text-soft">Halve the fruit, work each half its own way, and write the mL from a kilogram of each.</p>
          <FruitChoice value={form.fruit} onChange={put("fruit")} />
          <div className="grid grid-cols-2 gap-3">
            <Field label="One way" value={form.first} onChange={put("first")} />
            <Field label="The other" value={form.second} onChange={put("second")} fault={keep.fault("second")} />
          </div>
          {pairs.map((pair, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a pair is known by its place alone
            <div key={n} className="grid grid-cols-2 gap-3">
              {([0, 1] as const).map((side) => (
                <Field
                  key={side}
                  label={`Pair ${n + 1}, ${side ? form.second : form.first}`}
                  unit="mL/kg"
                  inputMode="decimal"
                  value={pair[side]}
                  onChange={(value) =>
                    setPairs(pairs.map((each, at) => (at === n ? (side ? [each[0], value] : [value, each[1]]) : each) as [string, string]))
                  }
                  fault={side ? undefined : keep.fault(String(n))}
                />
              ))}
            </div>
          ))}
          <div className="flex flex-wrap gap-2">
            <Button onClick={() => setPairs([...pairs, ["", ""]])}>One more pair</Button>
            <Button look="main" type="submit" disabled={keep.isPending || whole.length === 0}>
              Keep the trial
            </Button>
          </div>
          <Trouble error={keep.fault("second") ? null : keep.error} />
        </form>
      ) : null}
      <ul className="grid gap-3">
        {rowsOf(found.data).map((trial) => (
          <li key={trial.id} className="rounded-xl bg-quiet p-3">
            <p className="font-semibold">
              {trial.name}: {trial.first} against {trial.second}
            </p>
            <Difference verdict={trial.verdict} />
            <p className="text-[17px] font-bold">{trial.verdict.text}</p>
            <p className="text-[14px] text-soft">
              {figure(trial.verdict.first, 0)} and {figure(trial.verdict.second, 0)} mL/kg on average, the differences scatter by{" "}
              {figure(trial.verdict.spread, 0)} · {trial.by}, {day(trial.at, session.zone)}
            </p>
          </li>
        ))}
      </ul>
      <More list={found} />
    </section>
  );
}

/** The interval of the difference against none at all. */
function Difference({ verdict }: { verdict: Schemas["Verdict"] }) {
  if (verdict.low === null || verdict.high === null) return null;
  const most = 1.15 * Math.max(Math.abs(verdict.low), Math.abs(verdict.high), 1);
  const x = (value: number) => 150 + (140 * value) / most;
  return (
    <svg viewBox="0 0 300 30" className="my-1 w-full max-w-md" aria-hidden="true">
      <path d="M150 2V28" stroke="var(--soft)" strokeWidth="1.5" strokeDasharray="3 3" />
      <path d={`M${x(verdict.low)} 15H${x(verdict.high)}`} stroke="var(--rim)" strokeWidth="6" strokeLinecap="round" />
      <circle cx={x(verdict.mean)} cy="15" r="6" fill="var(--enamel)" stroke="var(--rim)" strokeWidth="3" />
    </svg>
  );
}

function Ledger() {
  const money = useMoney();
  const found = useQuery(ask.ledger());
  const rows: Schemas["LedgerRow"][] = found.data ?? [];
  return (
    <section className="tray p-4" aria-label="Ledger">
      <h2 className="mb-2 text-[20px]">What the fruit became</h2>
      {found.data && rows.length === 0 ? (
        <Empty title="Nothing cut yet">Every plan that is carried out puts its litres, its peel and its money here.</Empty>
      ) : null}
      {rows.length ? (
        <Sideways label="Every week and fruit">
          <table className="w-full text-[15px]">
            <thead>
              <tr className="text-right text-[14px] text-soft">
                {["week of", "fruit"].map((word) => (
                  <th key={word} scope="col" className="py-1 pr-3 text-left font-normal">
                    {word}
                  </th>
                ))}
                {["kg", "litres", "skin used g", "skin thrown g", "money"].map((word) => (
                  <th key={word} scope="col" className="py-1 pl-3 font-normal">
                    {word}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={`${row.week} ${row.fruit}`} className="border-t border-line">
                  <td className="py-1.5 pr-3 whitespace-nowrap">{day(row.week)}</td>
                  <td className="pr-3">{row.fruit}</td>
                  <td className="figures pl-3 text-right">{figure(row.kg, 1)}</td>
                  <td className="figures pl-3 text-right font-bold">{figure(row.litres, 2)}</td>
                  <td className="figures pl-3 text-right">{figure(row.skin_used_g, 0)}</td>
                  <td className="figures pl-3 text-right">{figure(row.skin_thrown_g, 0)}</td>
                  <td className="figures pl-3 text-right">{money(String(row.money))}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Sideways>
      ) : null}
      <NotFetched questions={[found]} />
    </section>
  );
}
