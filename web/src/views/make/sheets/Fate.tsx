import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { type Leftover, leftAmount, leftKeeps, leftOffer } from "../../../parts/leftovers";
import { type Fated, offOf, restAsked } from "./fates";

const WAYS = [
  { value: "lot", label: "keep it: a lot of its own" },
  { value: "bin", label: "into the bin" },
] as const;
/** One thing left over at the finish: what it is, what can be made of it, and what becomes of it. */
export function Fate({ item, fate, onFate }: { item: Leftover; fate: Fated; onFate: (fate: Fated) => void }) {
  const set = (changes: Partial<Fated>) => onFate({ ...fate, ...changes });
  const off = offOf(item, fate);
  return (
    <fieldset className="grid gap-2 rounded-[14px] bg-quiet p-3 text-[18px]">
      <legend className="sr-only">{item.name}</legend>
      <p>
        <b className="inline-block first-letter:uppercase">
          {item.name}, about {leftAmount(item)}
        </b>{" "}
        <span className="text-[16px] text-soft">
          {leftOffer(item)} · {leftKeeps(item)}
        </span>
      </p>
      <div className="flex flex-wrap items-end gap-3">
        <Choice label={`What becomes of ${item.name}`} value={fate.to} options={WAYS} onChange={(to) => set({ to })} />
        {fate.to === "lot" ? (
          <Field label={`Weight of ${item.name}`} unit="g" inputMode="decimal" value={fate.mass} onChange={(mass) => set({ mass })} />
        ) : (
          <Field label={`Why ${item.name} goes`} value={fate.reason} onChange={(reason) => set({ reason })} />
        )}
      </div>
      {off ? <Field label={restAsked(off)} value={fate.rest} onChange={(rest) => set({ rest })} /> : null}
    </fieldset>
  );
}
