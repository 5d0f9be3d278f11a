import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { FIGURES } from "../../../api/figures";
import { ask } from "../../../api/queries";
import { TITRATION_STEPS, USUAL } from "../../../api/rules";
import { tell, useInstruments } from "../../../instruments/useInstruments";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { figure, GAP, typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import type { EventBody } from "../../../sync/event";
import { Keypad, type Live } from "./Keypad";
import { type Kind, readBody, readingsInOrder, refusedWeight } from "./reading";
import type { SheetProps } from "./sheetProps";
import { useAwaited, useProbe } from "./useProbe";

/** What was read: typed, or taken from an instrument; what is read while a step goes on belongs to its watch. */
export function ReadingSheet({ open, onClose, run, now, bench }: SheetProps) {
  const [kind, setKind] = useState<Kind | null>(null);
  const [checked, setChecked] = useState(false);
  const [burette, setBurette] = useState(false);
  const probe = useProbe(run, kind?.property ?? null);
  const awaited = useAwaited(run, kind?.property ?? null);
  const close = () => {
    setKind(null);
    setBurette(false);
    onClose();
  };
  const watch = run.state.watch;
  const send = (property: EventBody<"read">["property"], body: Omit<EventBody<"read">, "property" | "step">) => {
    close();
    void bench.record(["read", readBody(property, body, watch?.reads, now.step?.id)]);
  };
  if (burette) return <Titration open={open} onClose={close} keepAs={run.id} onDone={(body) => send("acid_g_100ml", { burette: body })} />;
  if (kind?.property === "mass_g") {
    const done = (body: { value: number; tare_g?: number }) => send("mass_g", body);
    return <VesselWeight open={open} live={probe} awaited={awaited} keepAs={run.id} onClose={close} onDone={done} />;
  }
  if (kind) {
    return (
      <Keypad
        open={open}
        title={kind.label}
        about={kind.about}
        label={kind.label}
        unit={kind.unit}
        decimals={FIGURES[kind.property].decimals}
        keepAs={`${run.id}.${kind.property}`}
        live={probe}
        awaited={awaited}
        onClose={close}
        onDone={(value) =>
          send(kind.property, { value, ...(kind.property === "ph" ? { checked: checked || probe?.checked === true } : {}) })
        }
      >
        {kind.property === "acid_g_100ml" ? <Button onClick={() => setBurette(true)}>From the burette, step by step</Button> : null}
      </Keypad>
    );
  }
  return (
    <Sheet open={open} onClose={close} title="Reading" about="What did you read?">
      <div className="grid gap-3">
        {readingsInOrder(watch?.reads).map(({ kind: item, first }) => (
          <Button key={item.property} size="bench" look={first ? "main" : "plain"} onClick={() => setKind(item)}>
            {item.label}
            {item.unit ? `, ${item.unit}` : ""}
          </Button>
        ))}
        <label className="flex min-h-16 items-center gap-3 text-[18px]">
          <input type="checkbox" className="size-7 accent-rim" checked={checked} onChange={(event) => setChecked(event.target.checked)} />
          the pH meter was checked in its buffers
        </label>
      </div>
    </Sheet>
  );
}

interface VesselWeightProps {
  open: boolean;
  live: Live | null;
  awaited: string | undefined;
  keepAs: string;
  onClose: () => void;
  onDone: (body: { value: number; tare_g?: number }) => void;
}

/** A weight with the container it stands in: the core takes its tare off. */
function VesselWeight({ open, live, awaited, keepAs, onClose, onDone }: VesselWeightProps) {
  const containers = useQuery(ask.containers());
  const [key, setKey] = useState("none");
  const container = containers.data?.find((item) => String(item.id) === key);
  return (
    <Keypad
      open={open}
      title="Weight"
      about={
        container
          ? `${container.name} weighs ${figure(container.tare_g)}${GAP}g empty: it is taken off.`
          : "Without the vessel, or choose the one it stands in."
      }
      label="What the scale shows"
      unit={FIGURES.mass_g.unit}
      keepAs={`${keepAs}.mass_g`}
      live={live}
      awaited={awaited}
      refuse={(value) => refusedWeight(value, container)}
      onClose={onClose}
      onDone={(value) => onDone({ value, ...(container ? { tare_g: container.tare_g } : {}) })}
    >
      <Choice
        label="Container"
        value={key}
        options={[
          { value: "none", label: "nothing to take off" },
          ...(containers.data ?? []).map((item) => ({ value: String(item.id), label: `${item.name}, ${figure(item.tare_g)} g` })),
        ]}
        onChange={setKey}
      />
    </Keypad>
  );
}

interface TitrationProps {
  open: boolean;
  onClose: () => void;
  keepAs: string;
  onDone: (burette: { naoh_ml: number; sample_ml: number; normality: number }) => void;
}

/** A titration, step by step: burette figure in, acid out. */
function Titration({ open, onClose, keepAs, onDone }: TitrationProps) {
  const [sample, setSample] = useState(() => localStorage.getItem("ulsek.sample_ml") ?? String(USUAL.sample_ml));
  const [normality, setNormality] = useState(() => localStorage.getItem("ulsek.normality") ?? String(USUAL.normality));
  const { items } = useInstruments();
  const titrator = items.find((item) => item.kind === "titrator" && item.shown && item.shown.state !== "lost");
  const shown = titrator?.shown;
  const live = titrator && shown && shown.value !== null ? { name: titrator.name, value: shown.value, steady: shown.steady } : null;
  const sampleMl = typed(sample);
  const strength = typed(normality);
  return (
    <Keypad
      open={open}
      title="Titration"
      about={
        sampleMl && strength
          ? `${figure(sampleMl)}${GAP}mL of it against ${figure(strength, 3)} mol/L.`
          : "Give the sample and the strength of the base first."
      }
      label="What the burette gave"
      unit={FIGURES.naoh_ml.unit}
      decimals={FIGURES.naoh_ml.decimals}
      keepAs={`${keepAs}.burette`}
      live={live}
      awaited={titrator?.name}
      onClose={onClose}
      onDone={(naoh_ml) => {
        if (!sampleMl || !strength) return;
        localStorage.setItem("ulsek.sample_ml", sample);
        localStorage.setItem("ulsek.normality", normality);
        onDone({ naoh_ml, sample_ml: sampleMl, normality: strength });
      }}
    >
      <ol className="list-decimal pl-6 text-[18px]">
        {TITRATION_STEPS.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ol>
      <Field
        label="Sample"
        unit="mL"
        inputMode="decimal"
        value={sample}
        onChange={setSample}
        fault={sampleMl ? undefined : `Write figures, such as ${USUAL.sample_ml}.`}
      />
      <Field
        label="Base"
        unit="mol/L"
        inputMode="decimal"
        value={normality}
        onChange={setNormality}
        fault={strength ? undefined : `Write figures, such as ${USUAL.normality}.`}
      />
      {titrator ? <Button onClick={() => void tell(titrator.id, "run")}>Run the {titrator.name}</Button> : null}
    </Keypad>
  );
}
