import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, expectOk, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Notice, Trouble } from "../../../parts/Notice";
import { useLive } from "../../../parts/useLive";
import { AllergensField } from "./AllergensField";
import { bodySent, bodyTyped } from "./body";
import { MakeupFields } from "./MakeupFields";
import { ReadsSo } from "./ReadsSo";

interface MaterialFormProps {
  /** What is changed; a new one without it. */
  file?: Schemas["MaterialFile"];
  choices: Schemas["MaterialChoices"];
  open: (key: string) => void;
}

/** One material: what it is called, what is in it, what it costs, holds and keeps; beside it what it reads, as it is typed. */
export function MaterialForm({ file, choices, open }: MaterialFormProps) {
  const queries = useQueryClient();
  const [typed, setTyped] = useState(() => bodyTyped(file?.body, file?.ships));
  const set = (change: Partial<typeof typed>) => {
    keep.reset();
    setTyped({ ...typed, ...change });
  };
  const { body, faults } = bodySent(typed, file?.body);
  const wrong = Object.keys(faults).length > 0;
  const live = useLive(
    ["materials", "read"],
    body,
    (asked, signal) => unwrap(client.POST("/api/read-material", { body: { body: asked }, signal })),
    [],
  );
  const settled = (key: string) => {
    // Specs, plans and prices are worked out with it.
    void queries.invalidateQueries();
    open(key);
  };
  const keep = useMutation({
    mutationFn: () =>
      unwrap(
        file
          ? client.PUT("/api/materials/{key}", { params: { path: { key: file.key } }, body: { body } })
          : client.POST("/api/materials", { body: { body } }),
      ),
    onSuccess: (kept) => settled(kept.key),
  });
  const drop = useMutation({
    mutationFn: () => expectOk(client.DELETE("/api/materials/{key}", { params: { path: { key: file?.key ?? "" } } })),
    onSuccess: () => settled(file?.ships ? file.key : ""),
  });
  const refused = faultsOf(keep.error);
  const told = (where: string) => faults[where] ?? refused[where] ?? (typed.name.trim() ? live.fault(where) : undefined);
  const heading = file?.view.name ?? "A material of our own";
  if (file?.made_by) {
    return (
      <section className="tray p-5" aria-label={heading}>
        <h2 className="text-[20px]">{heading}</h2>
        <p>
          A spec of the house makes it: what is in it follows from there.{" "}
          <Link to="/specs" className="inline-flex min-h-11 items-center font-semibold text-rim underline">
            To the specs
          </Link>
        </p>
      </section>
    );
  }
  return (
    <form
      className="tray grid gap-4 p-5"
      aria-label={heading}
      onSubmit={(event) => {
        event.preventDefault();
        if (!wrong) keep.mutate();
      }}
    >
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2 className="text-[20px]">{heading}</h2>
        <Button look="quiet" onClick={() => open("")}>
          Close
        </Button>
      </div>
      {file?.ships && !file.own ? (
        <Notice severity="note">This ships with typical figures. What you keep here takes their place in your house alone.</Notice>
      ) : null}
      <div className="grid gap-3 sm:grid-cols-[minmax(0,1fr)_auto]">
        <Field
          label="What it is called"
          value={typed.name}
          onChange={(name) => set({ name })}
          fault={refused.name}
          maxLength={80}
          required
        />
        <div>
          <p className="mb-1 text-[14px] text-soft">Kind</p>
          <Choice
            label="Kind"
            value={typed.kind}
            options={choices.kinds.map((kind) => ({ value: kind, label: kind }))}
            onChange={(kind) => set({ kind })}
          />
        </div>
      </div>
      <h3 className="text-[17px]">What is in it</h3>
      <MakeupFields made={typed.makeup} onChange={(makeup) => set({ makeup })} choices={choices} fault={told} />
      <ReadsSo view={wrong ? undefined : live.made} />
      <h3 className="text-[17px]">What else is known</h3>
      <AllergensField
        known={choices.allergens}
        ships={(file?.ships ? file.view.allergens : []) as readonly string[]}
        value={typed.allergens}
        onChange={(allergens) => set({ allergens })}
        fault={refused.allergens}
      />
      <div className="grid gap-3 sm:grid-cols-2">
        <Field
          label="A kilogram costs, without a delivery's price"
          inputMode="decimal"
          value={typed.price}
          onChange={(price) => set({ price })}
          fault={told("price_per_kg")}
        />
        <Field
          label="Closed, it keeps from the day it comes"
          unit="d"
          inputMode="numeric"
          value={typed.keeps}
          onChange={(keeps) => set({ keeps })}
          fault={told("keeps_days")}
        />
        <Field label="One piece weighs" unit="g" value={typed.piece} onChange={(piece) => set({ piece })} fault={told("piece_g")} />
        <Field
          label="A millilitre of it weighs, poured loose"
          unit="g"
          value={typed.bulk}
          onChange={(bulk) => set({ bulk })}
          fault={told("bulk_density_g_ml")}
        />
      </div>
      <div>
        <p className="mb-1 text-[14px] text-soft">How what is made of it keeps, where nothing else is shown to keep it</p>
        <Choice
          label="Class of keeping"
          value={typed.keepingClass || "none"}
          options={[
            { value: "none", label: "by the mixture alone" },
            ...choices.classes.map(({ key, words }) => ({ value: key, label: words })),
          ]}
          onChange={(next) => set({ keepingClass: next === "none" ? "" : next })}
        />
      </div>
      <Field label="Note" value={typed.note} onChange={(note) => set({ note })} fault={refused.note} maxLength={300} />
      {live.elsewhere && typed.name.trim() && !wrong && !told("makeup") ? (
        <p className="text-[14px] font-semibold text-warn">{live.elsewhere}</p>
      ) : null}
      <Trouble error={restOf(keep.error, ["name", "allergens", "note"])} />
      <Trouble error={drop.error} />
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={keep.isPending || wrong || !typed.name.trim()}>
          Keep it
        </Button>
        {file?.own ? (
          <Button look="quiet" disabled={drop.isPending} onClick={() => drop.mutate()}>
            {file.ships ? "As it ships" : "Take it away"}
          </Button>
        ) : null}
      </div>
    </form>
  );
}
