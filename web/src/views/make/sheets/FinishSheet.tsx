import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { KnownField } from "../../../parts/KnownField";
import { Sheet } from "../../../parts/Sheet";
import { Fate } from "./Fate";
import { type Fated, fateOf, restAsked } from "./fates";
import { finishBody, finishState, leftOver } from "./finish";
import type { SheetProps } from "./sheetProps";

/** Bottles are full: the product, what is left over, what they stand in, what is signed, and what the house learned. */
export function FinishSheet({ onClose, run, now, bench }: Omit<SheetProps, "open">) {
  const { state } = run;
  const containers = useQuery(ask.containers());
  const [volume, setVolume] = useState(String(state.suggested_ml ?? ""));
  const [rest, setRest] = useState("");
  const [place, setPlace] = useState("");
  const [signed, setSigned] = useState(false);
  const [filled, setFilled] = useState<number[]>([]);
  const [fates, setFates] = useState<Record<string, Fated>>({});
  const given = { volume, rest, place, signed, filled, fates };
  const { fault, off, offWords, odd, mustSign, ready } = finishState(state, given, run.rehearsal);
  const send = () => {
    const body = finishBody(state, given, run.rehearsal);
    if (body) void bench.record(...(now.step ? [["step_done", { step: now.step.id }] as const] : []), ["finished", body]);
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
        {off ? (
          <div className="grid gap-2 rounded-[14px] border-l-[9px] border-warn bg-quiet p-4 text-[18px]">
            <p className="font-bold">{offWords}</p>
            <Field label={restAsked(off)} value={rest} onChange={setRest} />
          </div>
        ) : null}
        {run.rehearsal ? null : (
          <>
            <KnownField kind="place" label="Where they stand" value={place} onChange={setPlace} placeholder="cold room, shelf 2" />
            {leftOver(state).map(({ item, asked }) => (
              <Fate
                key={item.key}
                item={item}
                fate={fateOf(item, asked, fates)}
                onFate={(fate) => setFates({ ...fates, [item.key]: fate })}
              />
            ))}
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
        <Button look="main" size="bench" type="submit" disabled={!ready}>
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
