import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Field } from "../../parts/Field";
import { Sheet } from "../../parts/Sheet";
import { figure, GAP, typed } from "../../parts/say";
import type { SheetProps } from "./BenchSheets";
import type { Happened } from "./useBench";

const WAYS = [
  { value: "lot", label: "keep it: a lot of its own" },
  { value: "bin", label: "into the bin" },
] as const;
interface Kept {
  to: "lot" | "bin";
  mass: string;
  reason: string;
}

/** Bottles are full: the product, its by-products, what they stand in, what is signed, and what the house learned. */
export function FinishSheet({ onClose, run, now, bench }: Omit<SheetProps, "open">) {
  const { state } = run;
  const containers = useQuery(ask.containers());
  const expected = state.evaluation.final?.volume_ml.value ?? 0;
  const [volume, setVolume] = useState(String(Math.round(expected / 10) * 10));
  const [place, setPlace] = useState("");
  const [signed, setSigned] = useState(false);
  const [filled, setFilled] = useState<number[]>([]);
  const streams = state.evaluation.by_products.filter((item) => item.left_g > 0.5);
  const [kept, setKept] = useState<Record<string, Kept>>({});
  const of = (name: string, mass: number): Kept => kept[name] ?? { to: "bin", mass: String(Math.round(mass)), reason: "not needed" };
  const value = typed(volume);
  const fault = value === null ? "Write figures, such as 1430." : undefined;
  const odd = state.deviations.filter((item) => !item.quiet);
  const mustSign = state.off_spec !== "";
  const send = () => {
    if (value === null) return;
    const last: Happened[] = now.step ? [["step_done", { step: now.step.id }]] : [];
    const by_products = streams.map((item) => {
      const { to, mass, reason } = of(item.name, item.left_g);
      return to === "lot" ? { name: item.name, to, mass_g: typed(mass) ?? item.left_g } : { name: item.name, to, reason: reason.trim() };
    });
    void bench.record(...last, ["finished", { volume_ml: value, place, signed, by_products, containers: filled }]);
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title="Bottles are full"
      about={run.rehearsal ? "A rehearsal: it is scored, and touches nothing." : "The lot gets its date, its reason and its label."}
      wide
    >
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <Field
          size="bench"
          label="In bottles"
          unit="mL"
          inputMode="decimal"
          value={volume}
          onChange={setVolume}
          fault={fault ?? bench.refused ?? undefined}
          autoFocus
        />
        {run.rehearsal ? null : (
          <>
            <Field label="Where they stand" value={place} onChange={setPlace} placeholder="cold room, shelf 2" />
            {streams.map((item) => {
              const now_ = of(item.name, item.left_g);
              const set = (next: Partial<Kept>) => setKept({ ...kept, [item.name]: { ...now_, ...next } });
              return (
                <fieldset key={item.name} className="grid gap-2 rounded-[14px] bg-quiet p-3 text-[18px]">
                  <legend className="sr-only">{item.name}</legend>
                  <p className="font-bold">
                    {item.name}, about {figure(item.left_g, 0)}
                    {GAP}g
                  </p>
                  <div className="flex flex-wrap items-end gap-3">
                    <Choice label={`What becomes of ${item.name}`} value={now_.to} options={WAYS} onChange={(to) => set({ to })} />
                    {now_.to === "lot" ? (
                      <Field
                        label={`Weight of ${item.name}`}
                        unit="g"
                        inputMode="decimal"
                        value={now_.mass}
                        onChange={(mass) => set({ mass })}
                      />
                    ) : (
                      <Field label={`Why ${item.name} goes`} value={now_.reason} onChange={(reason) => set({ reason })} />
                    )}
                  </div>
                </fieldset>
              );
            })}
            {containers.data?.length ? (
              <fieldset className="text-[18px]">
                <legend className="mb-1 text-soft">Filled into</legend>
                <div className="flex flex-wrap gap-x-5">
                  {containers.data.map((item) => (
                    <label key={item.id} className="flex min-h-14 items-center gap-2">
                      <input
                        type="checkbox"
                        className="size-6 accent-rim"
                        checked={filled.includes(item.id)}
                        onChange={(event) =>
                          setFilled(event.target.checked ? [...filled, item.id] : filled.filter((key) => key !== item.id))
                        }
                      />
                      {item.name}
                      {item.cleaned_at ? null : (
                        <span className="font-bold text-warn"> not cleaned{item.last_contents ? ` since ${item.last_contents}` : ""}</span>
                      )}
                    </label>
                  ))}
                </div>
              </fieldset>
            ) : null}
          </>
        )}
        {odd.length || mustSign ? (
          <div className="grid gap-2 rounded-[14px] border-l-[9px] border-warn bg-quiet p-4 text-[18px]">
            {odd.map((item) => (
              <p key={item.line}>{item.text}</p>
            ))}
            {mustSign ? <p className="font-bold">{state.off_spec}</p> : null}
            {run.rehearsal ? null : (
              <label className="flex min-h-14 items-center gap-3 font-bold">
                <input
                  type="checkbox"
                  className="size-7 accent-rim"
                  checked={signed}
                  onChange={(event) => setSigned(event.target.checked)}
                />
                I sign that it goes on the shelf like this
              </label>
            )}
          </div>
        ) : null}
        <Lessons lessons={state.lessons} />
        <Button look="main" size="bench" type="submit" disabled={mustSign && !signed && !run.rehearsal}>
          {run.rehearsal ? "Score it" : "On the shelf"}
        </Button>
      </form>
    </Sheet>
  );
}

/** What this batch taught the house, before and after. */
export function Lessons({ lessons }: { lessons: SheetProps["run"]["state"]["lessons"] }) {
  if (!lessons.length) return null;
  return (
    <div className="rounded-[14px] bg-quiet p-4 text-[18px]">
      <p className="font-bold">What this batch taught</p>
      <ul className="list-disc pl-5">
        {lessons.slice(0, 4).map((item) => (
          <li key={item.group}>
            {item.text}
            {item.kept ? " The next batch begins from it." : ""}
          </li>
        ))}
      </ul>
    </div>
  );
}
