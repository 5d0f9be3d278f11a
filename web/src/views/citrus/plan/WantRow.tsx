import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { WANTS } from "../../../api/rules";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { MomentField } from "../../../parts/MomentField";
import { useSession } from "../../../session/session";
import { FruitChoice } from "../common/FruitChoice";
import { mayBeOld, type TypedWant, unitOf } from "./wants";

interface WantRowProps {
  want: TypedWant;
  faults: { by: string | undefined; amount: string | undefined };
  onChange: (want: TypedWant) => void;
  onDrop: () => void;
}

/** One thing that is wanted: what, of which fruit, how much, by when. */
export function WantRow({ want, faults, onChange, onDrop }: WantRowProps) {
  const { locale } = useSession();
  const specs = useQuery({ ...ask.specs(), enabled: want.what === "spec" });
  const put = (part: Partial<TypedWant>) => onChange({ ...want, ...part });
  return (
    <li className="grid gap-2 rounded-xl border border-line p-3">
      <div className="flex flex-wrap items-end gap-2">
        <div className="grid justify-items-start gap-1">
          <span className="text-[14px] text-soft">Wanted</span>
          <Choice
            label="What is wanted"
            value={want.what}
            onChange={(what) => put({ what })}
            options={WANTS.map((item) => ({ value: item.what, label: item.word }))}
          />
        </div>
        {want.what === "spec" ? (
          <div className="grid justify-items-start gap-1">
            <span className="text-[14px] text-soft">Spec</span>
            <Choice
              label="Spec"
              value={want.spec}
              onChange={(spec) => put({ spec })}
              options={(specs.data ?? []).map((item) => ({ value: item.id, label: item.name }))}
            />
          </div>
        ) : (
          <FruitChoice value={want.fruit} onChange={(fruit) => put({ fruit })} label="Of" />
        )}
        <Button look="quiet" className="ml-auto" onClick={onDrop} aria-label="Not wanted after all">
          Drop
        </Button>
      </div>
      <div className="flex flex-wrap items-start gap-2">
        <Field
          label="How much"
          unit={unitOf(want.what)}
          inputMode="decimal"
          className="w-44"
          value={want.amount}
          onChange={(amount) => put({ amount })}
          fault={faults.amount}
        />
        {want.what === "stretched" ? (
          <Field label="Times its juice" inputMode="decimal" className="w-28" value={want.times} onChange={(times) => put({ times })} />
        ) : null}
        <MomentField label="By" locale={locale} className="w-full" value={want.by} onChange={(by) => put({ by })} fault={faults.by} />
        {mayBeOld(want.what) ? (
          <label className="flex min-h-11 items-center gap-3 self-end">
            <input
              type="checkbox"
              className="size-5 accent-rim"
              checked={want.dayOld}
              onChange={(event) => put({ dayOld: event.target.checked })}
            />
            day-old juice will do
          </label>
        ) : null}
      </div>
    </li>
  );
}
