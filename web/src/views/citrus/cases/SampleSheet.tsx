import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { FIGURES } from "../../../api/figures";
import { USUAL } from "../../../api/rules";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { figure, GAP, typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import { moment } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { useAct } from "../common/useAct";

const BLANK = { count: String(USUAL.fruits_measured), juice_ml: "", weight_g: "", peel_g: "", zest_g: "", brix: "", acid_g_100ml: "" };
const FULLER = [
  ["weight_g", "They weighed", "g"],
  ["peel_g", "Peel off them", "g"],
  ["zest_g", "Zest off them", "g"],
  ["brix", "Juice reads", FIGURES.brix_reading.unit],
  ["acid_g_100ml", "Acid, titrated", FIGURES.acid_g_100ml.unit],
] as const;

/** mL from the first ten; the fuller sample for who wants it. A slip is set aside, with its reason. */
export function SampleSheet({ item, onClose }: { item: Schemas["CaseOut"]; onClose: () => void }) {
  const session = useSession();
  const [form, setForm] = useState(BLANK);
  const [why, setWhy] = useState("");
  const put = (key: keyof typeof BLANK) => (value: string) => setForm((before) => ({ ...before, [key]: value }));
  const number = (key: keyof typeof BLANK) => (form[key].trim() ? typed(form[key]) : null);
  const measure = useAct(
    () =>
      unwrap(
        client.POST("/api/citrus/cases/{case_id}/samples", {
          params: { path: { case_id: item.id } },
          body: {
            count: number("count") ?? 0,
            juice_ml: number("juice_ml"),
            weight_g: number("weight_g"),
            peel_g: number("peel_g"),
            zest_g: number("zest_g"),
            brix: number("brix"),
            acid_g_100ml: number("acid_g_100ml"),
          },
        }),
      ),
    onClose,
  );
  const aside = useAct((id: number) =>
    unwrap(
      client.POST("/api/citrus/cases/{case_id}/samples/{sample_id}/aside", {
        params: { path: { case_id: item.id, sample_id: id } },
        body: { why },
      }),
    ),
  );
  const placed = Object.keys(BLANK).some((key) => measure.fault(key));
  return (
    <Sheet open onClose={onClose} title={`Measure some ${item.name.toLowerCase()}`} about={`${item.supplier}, ${item.left} left`}>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          measure.mutate();
        }}
      >
        <div className="grid grid-cols-2 gap-3">
          <Field label="Fruits juiced" inputMode="numeric" value={form.count} onChange={put("count")} fault={measure.fault("count")} />
          <Field
            label="Juice of them"
            unit="mL"
            inputMode="decimal"
            value={form.juice_ml}
            onChange={put("juice_ml")}
            fault={measure.fault("juice_ml")}
            autoFocus
          />
        </div>
        <details className="rounded-xl border border-line px-3 py-1">
          <summary className="min-h-11 cursor-pointer py-2 text-[15px] font-semibold text-rim">A fuller sample</summary>
          <div className="grid grid-cols-2 gap-3 pb-3">
            {FULLER.map(([key, label, unit]) => (
              <Field
                key={key}
                label={label}
                unit={unit}
                inputMode="decimal"
                value={form[key]}
                onChange={put(key)}
                fault={measure.fault(key)}
              />
            ))}
          </div>
        </details>
        <Trouble error={placed ? null : measure.error} />
        <Button look="main" type="submit" disabled={measure.isPending}>
          Keep it
        </Button>
      </form>
      {item.samples.length ? (
        <div className="mt-5 grid gap-2 border-t border-line pt-4">
          <h3 className="text-[17px]">Measured before</h3>
          {item.samples.map((sample) => (
            <div key={sample.id} className="flex flex-wrap items-center justify-between gap-2 text-[15px]">
              <span className={sample.set_aside ? "text-soft line-through" : ""}>
                {sample.count} fruits, {sample.juice_ml === null ? "no juice" : `${figure(sample.juice_ml, 0)}${GAP}mL`} · {sample.by},{" "}
                {moment(sample.at, session.zone)}
              </span>
              {sample.set_aside ? (
                <span className="text-soft">{sample.set_aside}</span>
              ) : (
                <Button look="quiet" onClick={() => aside.mutate(sample.id)} disabled={!why.trim()}>
                  It was a slip
                </Button>
              )}
            </div>
          ))}
          <Field label="What went wrong with it" value={why} onChange={setWhy} />
          <Trouble error={aside.error} />
        </div>
      ) : null}
    </Sheet>
  );
}
