import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Empty, NotFetched, Notice, Shape } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import { day } from "../../../parts/say";
import { canMake, useSession } from "../../../session/session";
import { CaseSheet } from "./CaseSheet";
import { RecordChart } from "./RecordChart";
import { SampleSheet } from "./SampleSheet";
import { VarietiesPanel } from "./VarietiesPanel";

type Case = Schemas["CaseOut"];

const known = (item: Case) =>
  item.source === "sample"
    ? `measured on ${item.from_count} fruits`
    : item.source === "record"
      ? `from ${item.from_count} earlier cases`
      : "typical, nobody has measured";

/** What came in: each case with what one of its fruits gives, and whether it is unlike the others. */
export function CasesPart() {
  const session = useSession();
  const cases = useQuery(ask.cases());
  const [counting, setCounting] = useState(false);
  const [measuring, setMeasuring] = useState<string | null>(null);
  const [shown, setShown] = useState("");
  if (cases.isPending) return <Shape rows={5} />;
  const items = cases.data ?? [];
  const fruit = shown || (items[0]?.fruit ?? "");
  const measured = items.find((item) => item.id === measuring);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
      <section aria-label="Cases in hand" className="grid content-start gap-3">
        <div className="flex items-center justify-between gap-3">
          <p className="text-soft">{items.length ? "One figure is enough: mL from the first ten." : ""}</p>
          {canMake(session) ? (
            <Button look="main" onClick={() => setCounting(true)}>
              A case came in
            </Button>
          ) : null}
        </div>
        <NotFetched questions={[cases]} />
        {cases.data && items.length === 0 ? (
          <Empty title="No fruit in hand">Cases stand here with what a fruit gives. Count the first one in.</Empty>
        ) : null}
        {items.map((item) => (
          <article key={item.id} className="tray grid gap-3 p-4 sm:grid-cols-[1fr_auto]">
            <div>
              <h2 className="text-[21px]">{item.name}</h2>
              <p className="text-soft">
                {item.supplier}
                {item.size ? ` · ${item.size}` : ""} · came {day(item.came_at, session.zone)}
              </p>
              <p className="mt-1">
                <b className="figures">{item.left}</b> of {item.count} left · {figure(item.fruit_g, 0)}
                {GAP}g each
              </p>
              {item.unlike ? (
                <div className="mt-2">
                  <Notice severity="check">{item.unlike}</Notice>
                </div>
              ) : null}
            </div>
            <div className="sm:text-right">
              <p className="font-head text-[30px] leading-none font-bold">
                <span className={item.source === "sample" ? "was-read" : "worked"}>{figure(item.each.juice_ml.value, 0)}</span>
                <span className="ml-1 text-[15px] font-normal text-soft">mL a fruit</span>
              </p>
              <p className="mt-1.5 text-[14px] text-soft">
                {figure(item.each.juice_ml.low, 0)} to {figure(item.each.juice_ml.high, 0)} · {known(item)}
              </p>
              <p className="mt-1 text-[14px] text-soft">
                about {figure((item.left * item.each.juice_ml.value) / 1000, 1)}
                {GAP}L in all · peel {figure(item.each.peel_g, 0)}
                {GAP}g, zest {figure(item.each.zest_g, 0)} ({figure(item.each.zest_range.low, 0)} to {figure(item.each.zest_range.high, 0)})
                {GAP}g a fruit
              </p>
              <div className="mt-2 flex flex-wrap gap-2 sm:justify-end">
                {canMake(session) ? <Button onClick={() => setMeasuring(item.id)}>Measure some</Button> : null}
                <Button look="quiet" aria-pressed={fruit === item.fruit} onClick={() => setShown(item.fruit)}>
                  Its record
                </Button>
              </div>
            </div>
          </article>
        ))}
      </section>
      <div className="grid content-start gap-4">
        {fruit ? <RecordChart fruit={fruit} name={items.find((item) => item.fruit === fruit)?.name ?? fruit} /> : null}
        <VarietiesPanel />
      </div>
      <CaseSheet open={counting} onClose={() => setCounting(false)} />
      {measured ? <SampleSheet item={measured} onClose={() => setMeasuring(null)} /> : null}
    </div>
  );
}
