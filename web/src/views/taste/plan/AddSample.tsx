import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import { day } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { type ChosenSample, contentsWords } from "./plan";

interface AddSampleProps {
  open: boolean;
  onClose: () => void;
  onAdd: (sample: ChosenSample) => void;
}

const KINDS = [
  { value: "lot", label: "A bottle of ours" },
  { value: "spec", label: "A version, a trial or a draft" },
  { value: "bought", label: "A bottle from elsewhere" },
] as const;
type Kind = (typeof KINDS)[number]["value"];
const NOBODY = { lot: "", spec: null, version: null, name: "", sugar_g_100ml: null, acid_g_100ml: null, abv: null, allergens: null };

/** One more sample, from wherever it comes. */
export function AddSample({ open, onClose, onAdd }: AddSampleProps) {
  const [kind, setKind] = useState<Kind>("lot");
  return (
    <Sheet open={open} onClose={onClose} title="What is tasted?">
      <div className="grid gap-4">
        <Choice label="Where it comes from" value={kind} onChange={setKind} options={KINDS} />
        {kind === "lot" ? <OwnBottle onAdd={onAdd} /> : kind === "spec" ? <OwnSpec onAdd={onAdd} /> : <FromElsewhere onAdd={onAdd} />}
      </div>
    </Sheet>
  );
}

type Adds = Pick<AddSampleProps, "onAdd">;

function OwnBottle({ onAdd }: Adds) {
  const { zone } = useSession();
  const [find, setFind] = useState("");
  const lots = useQuery(ask.lots(find));
  return (
    <>
      <Field label="Find a bottle" placeholder="its name, or L0012" value={find} onChange={setFind} />
      <ul className="grid max-h-[46dvh] gap-1 overflow-auto">
        {lots.data?.items.map((lot) => (
          <li key={lot.code}>
            <button
              type="button"
              onClick={() =>
                onAdd({
                  name: `${lot.name}, ${lot.code}`,
                  about: `made ${day(lot.made_at, zone)}, until ${day(lot.use_by)}`,
                  body: { ...NOBODY, kind: "lot", lot: lot.code },
                })
              }
              className="flex min-h-12 w-full items-baseline justify-between gap-3 rounded-xl px-3 py-2 text-left hover:bg-pick"
            >
              <b>{lot.name}</b>
              <span className="text-[15px] text-soft">
                {lot.code} · made {day(lot.made_at, zone)}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

function OwnSpec({ onAdd }: Adds) {
  const [find, setFind] = useState("");
  const specs = useQuery(ask.library({ find }));
  return (
    <>
      <Field label="Find a spec" placeholder="its name" value={find} onChange={setFind} />
      <ul className="grid max-h-[46dvh] gap-1 overflow-auto">
        {specs.data?.items.map((spec) => (
          <li key={spec.id} className="flex flex-wrap items-center justify-between gap-2 px-1">
            <span>
              <b>{spec.name}</b>
              {spec.state === "trial" ? <span className="text-soft"> · trial</span> : null}
            </span>
            <span className="flex gap-1.5">
              {spec.version ? (
                <Button
                  onClick={() =>
                    onAdd({
                      name: `${spec.name}, version ${spec.version}`,
                      about: "made for it",
                      body: { ...NOBODY, kind: "version", spec: spec.id, version: spec.version },
                    })
                  }
                >
                  Version {spec.version}
                </Button>
              ) : null}
              <Button
                look="quiet"
                onClick={() =>
                  onAdd({ name: `${spec.name}, draft`, about: "made for it", body: { ...NOBODY, kind: "draft", spec: spec.id } })
                }
              >
                Its draft
              </Button>
            </span>
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
