import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { listed, moment } from "../../../parts/say";
import { useAct } from "../common/useAct";
import { asksOf, type Cut, GAVE, type Gave, gaveBody, givesWords, isReadable, isUnread } from "./cut";

type Plan = Schemas["PlanOut"];

export interface CutRowProps {
  cut: Cut;
  plan: Plan | null;
  zone: string;
  mayMake: boolean;
  onDone: (plan: Plan) => void;
}

/** A cut to work down: when, of what, what it gives; and once it is made, what it gave. */
export function CutRow({ cut, plan, zone, mayMake, onDone }: CutRowProps) {
  const [open, setOpen] = useState(false);
  const [gave, setGave] = useState<Gave>({ count: String(cut.count), juice_ml: "", skin_g: "", skin_binned_g: "" });
  const done = plan?.done_rows.includes(cut.row) ?? false;
  const carry = useAct(
    () =>
      unwrap(
        client.POST("/api/citrus/plans/{plan_id}/cuts", {
          params: { path: { plan_id: plan?.id ?? "" } },
          body: { row: cut.row, ...gaveBody(gave) },
        }),
      ),
    onDone,
  );
  const fault = (name: keyof Gave) => (isUnread(gave[name]) ? "Write figures, such as 240." : carry.fault(name));
  const later = cut.then !== cut.at;
  return (
    <li className={`rounded-xl border p-3 ${done ? "border-line bg-quiet" : "border-rim"}`}>
      <div className="flex flex-wrap items-center justify-between gap-3">
        <p className="text-[17px]">
          <b className="figures">{cut.count}</b> <b>{cut.fruit}</b>: {cut.way}
          <span className="block text-[15px] text-soft">
            by {moment(cut.at, zone)}
            {later ? `, juiced by ${moment(cut.then, zone)}` : ""} · about {listed(givesWords(cut))}
          </span>
        </p>
        {done ? (
          <span className="font-semibold text-good">✓ cut</span>
        ) : plan && mayMake && !plan.done_at ? (
          <Button onClick={() => setOpen(!open)} aria-expanded={open}>
            It is cut
          </Button>
        ) : null}
      </div>
      {open && !done ? (
        <form
          className="mt-3 flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (isReadable(gave)) carry.mutate();
          }}
        >
          {asksOf(cut).map(({ name, label, unit }) => (
            <Field
              key={name}
              label={label}
              className={unit ? "w-36" : "w-24"}
              inputMode="decimal"
              value={gave[name]}
              onChange={(text) => setGave({ ...gave, [name]: text })}
              fault={fault(name)}
              {...(unit ? { unit } : {})}
            />
          ))}
          <Button look="main" type="submit" disabled={carry.isPending}>
            Keep it
          </Button>
          <Trouble error={GAVE.some(fault) ? null : carry.error} />
        </form>
      ) : null}
    </li>
  );
}
