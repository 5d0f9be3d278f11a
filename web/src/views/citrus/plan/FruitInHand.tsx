import type { Schemas } from "../../../api/client";
import { Field } from "../../../parts/Field";

export interface FruitInHandProps {
  cases: readonly Schemas["CaseOut"][];
  /** How many fruit of a case may be used at most, as typed, by the case's id. */
  chosen: Readonly<Record<string, string>>;
  onChoose: (chosen: Record<string, string>) => void;
}

/** The cases that a plan may cut into, and how much of each. */
export function FruitInHand({ cases, chosen, onChoose }: FruitInHandProps) {
  return (
    <div>
      <h3 className="mb-1 text-[17px]">From this fruit</h3>
      {cases.length === 0 ? <p className="text-soft">No case is in hand: count one in, or plan an order.</p> : null}
      <ul className="grid gap-2">
        {cases.map((item) => (
          <li key={item.id} className="flex items-end justify-between gap-3">
            <span className="pb-2.5">
              {item.name}, {item.supplier}
              <span className="text-soft"> · {item.left} left</span>
            </span>
            <Field
              label="use at most"
              className="w-28"
              inputMode="numeric"
              placeholder={String(item.left)}
              value={chosen[item.id] ?? ""}
              onChange={(value) => onChoose({ ...chosen, [item.id]: value })}
            />
          </li>
        ))}
      </ul>
    </div>
  );
}
