import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import { ask as questions } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Field } from "../../parts/Field";
import { MaterialPicker } from "../../parts/MaterialPicker";
import type { Sum } from "./useSum";

type Ask = Sum["asks"][number];
interface AskFieldProps {
  ask: Ask;
  value: string;
  onChange: (value: string) => void;
  fault?: string | undefined;
  autoFocus?: boolean;
}

const said = (usual: Ask["usual"]) => (usual === null ? "" : typeof usual === "number" ? String(usual) : usual);

/** One figure that a sum asks for: typed, chosen, or taken from a bottle on the shelf. */
export function AskField({ ask, value, onChange, fault, autoFocus = false }: AskFieldProps) {
  if (ask.material) {
    return (
      <div>
        <p className="mb-1 text-[14px] text-soft">{ask.label}</p>
        <div className="flex flex-wrap items-center gap-2">
          <MaterialPicker label={worded(value || said(ask.usual)) || "Choose"} onPick={onChange} />
          {ask.optional && value ? (
            <Button look="quiet" onClick={() => onChange("")}>
              None
            </Button>
          ) : null}
        </div>
        {fault ? <p className="mt-1 text-[14px] font-semibold text-warn">{fault}</p> : null}
      </div>
    );
  }
  if (ask.allowed.length && ask.allowed.length <= 5) {
    const now = value || said(ask.usual);
    return (
      <fieldset>
        <legend className="mb-1 text-[14px] text-soft">{ask.label}</legend>
        <div className="flex flex-wrap gap-2">
          {ask.allowed.map((word) => (
            <Button key={word} look={now === word ? "main" : "plain"} aria-pressed={now === word} onClick={() => onChange(word)}>
              {worded(word)}
            </Button>
          ))}
        </div>
      </fieldset>
    );
  }
  if (ask.allowed.length) {
    return (
      <div className="grid justify-start gap-1">
        <p className="text-[14px] text-soft">{ask.label}</p>
        <Choice
          label={ask.label}
          value={value || said(ask.usual) || (ask.allowed[0] ?? "")}
          options={ask.allowed.map((word) => ({ value: word, label: worded(word) }))}
          onChange={onChange}
        />
      </div>
    );
  }
  return (
    <div className="flex items-end gap-2">
      <Field
        label={ask.label}
        unit={ask.unit}
        inputMode={ask.text ? "text" : "decimal"}
        value={value}
        placeholder={said(ask.usual)}
        onChange={onChange}
        fault={fault}
        autoFocus={autoFocus}
        className="flex-1 [&_input]:h-13 [&_input]:text-[22px] [&_input]:font-bold"
      />
      {ask.lends ? <FromBottle ask={ask} onFigure={onChange} /> : null}
    </div>
  );
}

const worded = (key: string) => key.replaceAll("_", " ").replace(/^./, (letter) => letter.toUpperCase());

/** Takes the figure from a lot on the shelf, chosen or by the code on its label. */
function FromBottle({ ask, onFigure }: { ask: Ask; onFigure: (value: string) => void }) {
  const [open, setOpen] = useState(false);
  const lots = useQuery({ ...questions.lots(), enabled: open });
  const [nothing, setNothing] = useState("");
  const take = async (code: string) => {
    setNothing("");
    const found = await unwrap(client.GET("/api/sums/liquids/{code}", { params: { path: { code } } })).catch(() => null);
    const value = found?.figures[ask.lends];
    if (value === undefined) return setNothing(found ? `${found.name} has no such figure` : `Nothing here is called ${code}`);
    onFigure(String(Number(value.toPrecision(4))));
    setOpen(false);
  };
  if (!open) {
    return (
      <Button className="min-h-13" onClick={() => setOpen(true)} aria-label={`${ask.label}: take it from a bottle`}>
        from a bottle
      </Button>
    );
  }
  return (
    <form
      className="grid gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        const code = new FormData(event.currentTarget).get("code");
        if (typeof code === "string" && code.trim()) void take(code.trim().toUpperCase());
      }}
    >
      <label className="text-[14px] text-soft">
        Code on its label
        <input
          name="code"
          list="lots-on-the-shelf"
          autoComplete="off"
          className="block h-13 w-40 rounded-xl border border-line bg-enamel px-3 text-[17px] text-ink"
        />
      </label>
      <datalist id="lots-on-the-shelf">
        {lots.data?.items.map((lot) => (
          <option key={lot.code} value={lot.code}>
            {lot.name}
          </option>
        ))}
      </datalist>
      {nothing ? <span className="text-[14px] font-semibold text-warn">{nothing}</span> : null}
    </form>
  );
}
