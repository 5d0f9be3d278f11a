import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import { OwnBottle, OwnSpec } from "../common/OwnThings";

const KINDS = [
  { value: "frozen", label: "Frozen portions of a bottle" },
  { value: "made", label: "Made again by weight" },
] as const;
type Kind = (typeof KINDS)[number]["value"];
const BLANK = { name: "", portions: "6", portion_ml: "100", days: "", place: "", brix_reading: "", acid_g_100ml: "" };
const PLACES = ["lot", "version", "name", "portions", "portion_ml", "days", "place", "brix_reading", "acid_g_100ml"];

/** A standard that is kept: of which bottle or version, and how. */
export function KeepStandard({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="A standard to taste against"
      about="What the house means it to be, so that a slow change is seen."
    >
      {open ? <KeepForm /> : null}
    </Sheet>
  );
}

function KeepForm() {
  const queries = useQueryClient();
  const go = useNavigate();
  const [kind, setKind] = useState<Kind>("frozen");
  const [chosen, setChosen] = useState<{ name: string; body: Schemas["SampleIn"] } | null>(null);
  const [form, setForm] = useState(BLANK);
  const put = (key: keyof typeof BLANK) => (value: string) => setForm((before) => ({ ...before, [key]: value }));
  const keep = useMutation({
    mutationFn: (of: Schemas["SampleIn"]) =>
      unwrap(
        client.POST("/api/standards", {
          body: {
            kind,
            lot: of.lot ?? "",
            spec: of.spec ?? null,
            version: of.version ?? null,
            name: form.name,
            place: form.place,
            portions: kind === "frozen" ? (typed(form.portions) ?? 0) : 1,
            portion_ml: typed(form.portion_ml) ?? 0,
            days: typed(form.days),
            brix_reading: kind === "made" ? typed(form.brix_reading) : null,
            acid_g_100ml: kind === "made" ? typed(form.acid_g_100ml) : null,
          },
        }),
      ),
    onSuccess: ({ id }) => {
      void queries.invalidateQueries({ queryKey: ["standards"] });
      void go(`/taste/standards/${id}`);
    },
  });
  const faults = faultsOf(keep.error);
  const turn = (next: Kind) => {
    setKind(next);
    setChosen(null);
  };
  const field = (name: keyof typeof BLANK) => ({ value: form[name], onChange: put(name), fault: faults[name] });
  if (!chosen) {
    return (
      <div className="grid gap-4">
        <Choice label="How it is kept" value={kind} onChange={turn} options={KINDS} />
        {kind === "frozen" ? <OwnBottle onAdd={setChosen} /> : <OwnSpec onAdd={setChosen} />}
      </div>
    );
  }
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate(chosen.body);
      }}
    >
      <div className="flex items-center justify-between gap-3">
        <b>{chosen.name}</b>
        <Button look="quiet" onClick={() => setChosen(null)}>
          Another one
        </Button>
      </div>
      <Field label="What it is called, if not so" {...field("name")} />
      {kind === "frozen" ? (
        <div className="grid grid-cols-2 gap-3">
          <Field label="Portions" inputMode="numeric" {...field("portions")} />
          <Field label="Each" unit="mL" inputMode="decimal" {...field("portion_ml")} />
          <Field label="Ends after" unit="days" inputMode="numeric" placeholder="as long as it keeps" {...field("days")} />
          <Field label="Where it lies" {...field("place")} />
        </div>
      ) : (
        <div className="grid grid-cols-2 gap-3">
          <Field label="Made at a time" unit="mL" inputMode="decimal" {...field("portion_ml")} />
          <Field label="Where it stands" {...field("place")} />
          <Field label="It reads" unit="°Bx" inputMode="decimal" placeholder="as its spec says" {...field("brix_reading")} />
          <Field label="Its acid" unit="g/100 mL" inputMode="decimal" placeholder="as its spec says" {...field("acid_g_100ml")} />
        </div>
      )}
      <Trouble error={faults.lot || faults.version ? keep.error : restOf(keep.error, PLACES)} />
      <Button look="main" type="submit" disabled={keep.isPending}>
        Keep it
      </Button>
    </form>
  );
}
