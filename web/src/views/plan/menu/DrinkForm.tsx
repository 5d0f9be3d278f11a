import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, expectOk, type Schemas } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";

interface DrinkFormProps {
  spec: string;
  name: string;
  row?: Schemas["MenuRow"];
  menu: Schemas["MenuOut"];
  today: string;
  onClose: () => void;
}

const PARTS = ["first", "last", "price", "tax_percent", "garnish", "garnish_cost", "spill_percent"] as const;
type Part = (typeof PARTS)[number];

/** “12.50” stays, “5.00” is 5: as somebody would type it. */
const shown = (value: string) => value.replace(/\.?0+$/, "") || "0";

/** What is said of a drink on the menu. */
export function DrinkForm({ spec, name, row, menu, today, onClose }: DrinkFormProps) {
  const queries = useQueryClient();
  const [said, setSaid] = useState<Record<Part, string>>({
    first: row?.first ?? today,
    last: row?.last ?? "",
    price: row?.price ?? "",
    tax_percent: shown(row?.tax_percent ?? menu.usual_tax_percent),
    garnish: row?.garnish ?? "",
    garnish_cost: shown(row?.garnish_cost ?? "0"),
    spill_percent: shown(row?.spill_percent ?? menu.usual_spill_percent),
  });
  const anew = {
    onSuccess: () => {
      onClose();
      return queries.invalidateQueries({ queryKey: ["plan"] });
    },
  };
  const path = { spec_id: spec };
  const plain = (text: string) => text.trim().replace(",", ".");
  const keep = useMutation({
    mutationFn: () => {
      const body = {
        first: said.first,
        last: said.last || null,
        price: said.price.trim() ? plain(said.price) : null,
        tax_percent: plain(said.tax_percent) || "0",
        garnish: said.garnish,
        garnish_cost: plain(said.garnish_cost) || "0",
        spill_percent: plain(said.spill_percent) || "0",
      };
      return expectOk(client.PUT("/api/plan/menu/{spec_id}", { params: { path }, body }));
    },
    ...anew,
  });
  const drop = useMutation({ mutationFn: () => expectOk(client.DELETE("/api/plan/menu/{spec_id}", { params: { path } })), ...anew });
  const faults = faultsOf(keep.error);
  const unread = (part: Part) => said[part].trim() !== "" && typed(said[part]) === null;
  const wrong = (["price", "tax_percent", "garnish_cost", "spill_percent"] as const).filter(unread);
  const field = (part: Part) => ({
    value: said[part],
    onChange: (value: string) => setSaid({ ...said, [part]: value }),
    fault: wrong.some((one) => one === part) ? "Write a number." : faults[part],
  });
  return (
    <form
      aria-label={`${name} on the menu`}
      className="mb-3 grid gap-3 rounded-xl border border-line p-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      {row ? null : <h3 className="text-[17px] font-bold">{name}</h3>}
      <div className="flex flex-wrap items-start gap-3">
        <Field label="On the menu from" type="date" className="w-44" {...field("first")} />
        <Field label="to, that day too" type="date" className="w-44" {...field("last")} />
        <Field label="Price on the menu" inputMode="decimal" className="w-36" {...field("price")} />
        <Field label="Tax in it" unit="%" inputMode="decimal" className="w-28" {...field("tax_percent")} />
        <Field label="Garnish" className="w-48" {...field("garnish")} />
        <Field label="A garnish costs" inputMode="decimal" className="w-32" {...field("garnish_cost")} />
        <Field label="Spilled" unit="%" inputMode="decimal" className="w-28" {...field("spill_percent")} />
      </div>
      <div className="flex flex-wrap items-center gap-3">
        <Button look="main" type="submit" disabled={keep.isPending || !said.first || wrong.length > 0}>
          {row ? "Keep" : "Put it on the menu"}
        </Button>
        <Button look="quiet" onClick={onClose}>
          Leave it
        </Button>
        {row ? (
          <Button look="quiet" onClick={() => drop.mutate()} aria-label={`Take ${name} off the menu`}>
            Take it off the menu
          </Button>
        ) : null}
        <Link to={`/specs/${spec}/card`} className="inline-flex min-h-11 items-center font-semibold text-rim underline">
          Its card
        </Link>
      </div>
      <Trouble error={restOf(keep.error, PARTS) ?? drop.error} />
    </form>
  );
}
