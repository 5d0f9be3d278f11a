import { useState } from "react";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { figure, GAP, typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";

/** One thing that was done while capturing: its words, and the row that the core reads. */
export interface Captured {
  name: string;
  body: Record<string, unknown>;
}
interface CaptureSheetProps {
  vessel: string;
  vessels: readonly string[];
  onClose: () => void;
  onDone: (row: Captured) => void;
}
const NEW = "+ another vessel";
const weight = (text: string) => (text.trim() ? typed(text) : undefined);
const NO_FIGURE = "Write grams in figures, or leave it empty.";

/** Which vessel is worked on, or a new one by its name. */
export function VesselChoice({
  vessels,
  value,
  label,
  onChange,
}: {
  vessels: readonly string[];
  value: string;
  label: string;
  onChange: (name: string) => void;
}) {
  const [naming, setNaming] = useState(false);
  const [name, setName] = useState("");
  const take = () => {
    const called = name.trim();
    if (!called) return;
    setNaming(false);
    setName("");
    onChange(called);
  };
  return (
    <div className="flex flex-wrap items-end gap-2">
      <Choice
        size="bench"
        label={label}
        value={naming ? NEW : value}
        options={[...vessels, ...(vessels.includes(value) || !value ? [] : [value]), NEW].map((item) => ({ value: item, label: item }))}
        onChange={(next) => {
          setNaming(next === NEW);
          if (next !== NEW) onChange(next);
        }}
      />
      {naming ? (
        <>
          <Field label="Name of the vessel" value={name} onChange={setName} autoFocus />
          <Button onClick={take} disabled={!name.trim()}>
            That one
          </Button>
        </>
      ) : null}
    </div>
  );
}

/** Liquid into another vessel: all of it, or what was weighed. */
export function PourOver({ vessel, vessels, onClose, onDone }: CaptureSheetProps) {
  const others = vessels.filter((item) => item !== vessel);
  const [into, setInto] = useState(others[0] ?? "");
  const [mass, setMass] = useState("");
  const grams = weight(mass);
  return (
    <Sheet open onClose={onClose} title={`Out of the ${vessel}`} about="All of it, or what was weighed. Work goes on in the other vessel.">
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (!into || grams === null) return;
          const words = grams === undefined ? `All of the ${vessel} into the ${into}` : `Out of the ${vessel} into the ${into}`;
          onDone({ name: words, body: { from: vessel, vessel: into, ...(grams === undefined ? {} : { mass_g: grams }) } });
        }}
      >
        <VesselChoice label="Into" vessels={others} value={into} onChange={setInto} />
        <Field
          size="bench"
          label="How much, if not all"
          unit="g"
          inputMode="decimal"
          value={mass}
          onChange={setMass}
          fault={grams === null ? NO_FIGURE : undefined}
        />
        <Button look="main" size="bench" type="submit" disabled={!into}>
          Pour it over
        </Button>
      </form>
    </Sheet>
  );
}

const OUT = [
  { value: "solids", label: "the solids, strained out" },
  { value: "part", label: "a part, drawn off" },
] as const;

/** What leaves the vessel and is kept under a name: pressed solids, or a part of the liquid. Thrown away it has no name. */
export function ComesOut({ vessel, onClose, onDone }: CaptureSheetProps) {
  const [what, setWhat] = useState<(typeof OUT)[number]["value"]>("solids");
  const [called, setCalled] = useState("");
  const [mass, setMass] = useState("");
  const grams = weight(mass);
  const needed = what === "part" && grams === undefined;
  return (
    <Sheet
      open
      onClose={onClose}
      title={`Out of the ${vessel}`}
      about="Kept under its name it becomes a by-product; without one it is thrown away."
    >
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (grams === null || needed) return;
          const name = called.trim();
          const kept = name ? { by_product: name } : {};
          const body =
            what === "part"
              ? { verb: "split", mass_g: grams, ...kept }
              : { verb: "strain", ...(grams === undefined ? {} : { out_g: grams }), ...kept };
          const words = what === "part" ? `Drawn off${name ? `: ${name}` : ""}` : `Strained${name ? `: ${name}` : ""}`;
          onDone({ name: grams === undefined ? words : `${words}, ${figure(grams)}${GAP}g`, body });
        }}
      >
        <Choice size="bench" label="What came out" value={what} options={OUT} onChange={setWhat} />
        <Field label="Its name, if it is kept" value={called} onChange={setCalled} />
        <Field
          size="bench"
          label={what === "part" ? "How much" : "What it weighed, if you know"}
          unit="g"
          inputMode="decimal"
          value={mass}
          onChange={setMass}
          fault={grams === null ? NO_FIGURE : undefined}
        />
        <Button look="main" size="bench" type="submit" disabled={needed}>
          Write it down
        </Button>
      </form>
    </Sheet>
  );
}
