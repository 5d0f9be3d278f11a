import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { rowsOf } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import { NOBODY, OwnBottle, OwnSpec } from "../common/OwnThings";
import { heldWords } from "../standards/standards";
import { type ChosenSample, contentsWords } from "./plan";

interface AddSampleProps {
  open: boolean;
  onClose: () => void;
  onAdd: (sample: ChosenSample) => void;
}

const KINDS = [
  { value: "lot", label: "A bottle of ours" },
  { value: "spec", label: "A version, a trial or a draft" },
  { value: "standard", label: "A standard of ours" },
  { value: "bought", label: "A bottle from elsewhere" },
] as const;
type Kind = (typeof KINDS)[number]["value"];

/** One more sample, from wherever it comes. */
export function AddSample({ open, onClose, onAdd }: AddSampleProps) {
  const [kind, setKind] = useState<Kind>("lot");
  return (
    <Sheet open={open} onClose={onClose} title="What is tasted?">
      <div className="grid gap-4">
        <Choice label="Where it comes from" value={kind} onChange={setKind} options={KINDS} />
        {kind === "lot" ? <OwnBottle onAdd={onAdd} /> : kind === "spec" ? <OwnSpec onAdd={onAdd} drafts /> : null}
        {kind === "standard" ? <OurStandard onAdd={onAdd} /> : kind === "bought" ? <FromElsewhere onAdd={onAdd} /> : null}
      </div>
    </Sheet>
  );
}

type Adds = Pick<AddSampleProps, "onAdd">;

/** The standards that may be tasted against today. */
function OurStandard({ onAdd }: Adds) {
  const standards = useInfiniteQuery(ask.standards());
  const rows = rowsOf(standards.data).filter((row) => !row.stop);
  return (
    <>
      {standards.data && !rows.length ? (
        <p className="text-soft">None can be tasted today. Keep one in Taste, or make it again there and read it.</p>
      ) : null}
      <ul className="grid max-h-[46dvh] gap-1 overflow-auto">
        {rows.map((row) => (
          <li key={row.id}>
            <button
              type="button"
              onClick={() =>
                onAdd({ name: `${row.name}, ${row.code}`, about: heldWords(row), body: { ...NOBODY, kind: "standard", standard: row.id } })
              }
              className="flex min-h-12 w-full items-baseline justify-between gap-3 rounded-xl px-3 py-2 text-left hover:bg-pick"
            >
              <b>{row.name}</b>
              <span className="text-[15px] text-soft">
                {row.code} · {heldWords(row)}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

const EMPTY = { name: "", sugar: "", acid: "", abv: "", allergens: "" };

function FromElsewhere({ onAdd }: Adds) {
  const [form, setForm] = useState(EMPTY);
  const [looked, setLooked] = useState(false);
  const put = (key: keyof typeof EMPTY) => (value: string) => setForm((before) => ({ ...before, [key]: value }));
  const add = () => {
    const contents = { sugar_g_100ml: typed(form.sugar), acid_g_100ml: typed(form.acid), abv: typed(form.abv) };
    const allergens = form.allergens
      .split(",")
      .map((item) => item.trim())
      .filter(Boolean);
    onAdd({
      name: form.name.trim(),
      about: contentsWords(contents),
      body: { ...NOBODY, kind: "bought", name: form.name, ...contents, allergens: looked ? allergens : null },
    });
  };
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        add();
      }}
    >
      <Field label="What it is" placeholder="bottle from the market" value={form.name} onChange={put("name")} />
      <div className="grid grid-cols-3 gap-3">
        <Field label="Sugar" unit="g/100 mL" inputMode="decimal" value={form.sugar} onChange={put("sugar")} />
        <Field label="Acid" unit="g/100 mL" inputMode="decimal" value={form.acid} onChange={put("acid")} />
        <Field label="Strength" unit="% vol" inputMode="decimal" value={form.abv} onChange={put("abv")} />
      </div>
      <label className="flex min-h-11 cursor-pointer items-center gap-2.5">
        <input type="checkbox" checked={looked} onChange={(event) => setLooked(event.target.checked)} className="size-5 accent-rim" />
        <span>I have read its label for allergens</span>
      </label>
      {looked ? (
        <Field
          label="Allergens on its label, with commas"
          placeholder="sulphites, milk"
          value={form.allergens}
          onChange={put("allergens")}
        />
      ) : null}
      <Button look="main" type="submit" disabled={!form.name.trim()}>
        Add it
      </Button>
    </form>
  );
}
