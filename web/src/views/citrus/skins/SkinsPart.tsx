import { useState } from "react";
import { client, unwrap } from "../../../api/client";
import { USUAL } from "../../../api/rules";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Notice } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { useLive } from "../../../parts/useLive";
import { canMake, useSession } from "../../../session/session";
import { FruitChoice } from "../common/FruitChoice";
import { PackedCup } from "./PackedCup";
import { RunsOff } from "./RunsOff";
import { SpentPeel } from "./SpentPeel";

const FIELDS = ["peel_g", "ratio", "hours", "warm_c"];
const WAYS = [
  { value: "weight", word: "By weight" },
  { value: "volume", word: "By volume" },
] as const;

/** Sugar on weighed peel: what runs off it and when, and what the spent peel is good for. */
export function SkinsPart() {
  const session = useSession();
  const [form, setForm] = useState({
    fruit: "bergamot",
    peel_g: String(USUAL.oil_sugar_peel_g),
    ratio: String(USUAL.oil_sugar_ratio),
    hours: String(USUAL.oil_sugar_hours),
    warm_c: String(USUAL.oil_sugar_c),
  });
  const [measure, setMeasure] = useState<"weight" | "volume">("weight");
  const [pressed, setPressed] = useState(true);
  const put = (key: keyof typeof form) => (value: string) => setForm((before) => ({ ...before, [key]: value }));
  const number = (key: keyof typeof form) => typed(form[key]) ?? 0;
  const { made, fault, elsewhere } = useLive(
    ["citrus", "oil-sugar"],
    {
      fruit: form.fruit,
      peel_g: number("peel_g"),
      ratio: number("ratio"),
      hours: number("hours"),
      warm_c: number("warm_c"),
      measure,
      pressed,
    },
    (body, signal) => unwrap(client.POST("/api/citrus/oil-sugar", { body, signal })),
    FIELDS,
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[340px_minmax(0,1fr)]">
      <section className="tray grid content-start gap-3 p-4" aria-label="Peel and sugar">
        <FruitChoice value={form.fruit} onChange={put("fruit")} />
        <Field label="Peel, weighed" unit="g" inputMode="decimal" value={form.peel_g} onChange={put("peel_g")} fault={fault("peel_g")} />
        <fieldset>
          <legend className="mb-1 text-[14px] text-soft">Sugar is measured</legend>
          <div className="flex gap-2">
            {WAYS.map((item) => (
              <Button
                key={item.value}
                look={measure === item.value ? "main" : "plain"}
                aria-pressed={measure === item.value}
                onClick={() => setMeasure(item.value)}
              >
                {item.word}
              </Button>
            ))}
          </div>
        </fieldset>
        <Field label="Sugar to peel" unit="to 1" inputMode="decimal" value={form.ratio} onChange={put("ratio")} fault={fault("ratio")} />
        <div className="grid grid-cols-2 gap-3">
          <Field label="Hours" unit="h" inputMode="decimal" value={form.hours} onChange={put("hours")} fault={fault("hours")} />
          <Field label="At" unit="°C" inputMode="decimal" value={form.warm_c} onChange={put("warm_c")} fault={fault("warm_c")} />
        </div>
        <label className="flex min-h-11 items-center gap-3">
          <input type="checkbox" className="size-5 accent-rim" checked={pressed} onChange={(event) => setPressed(event.target.checked)} />
          pressed at the end
        </label>
        {canMake(session) && measure === "volume" ? <PackedCup fruit={form.fruit} /> : null}
      </section>
      <section className="grid content-start gap-4" aria-label="What runs off">
        {made ? (
          <RunsOff made={made}>
            {canMake(session) ? (
              <SpentPeel fruit={form.fruit} peel_g={number("peel_g")} hours={number("hours")} warm_c={number("warm_c")} />
            ) : null}
          </RunsOff>
        ) : elsewhere ? (
          <Notice severity="stop">{elsewhere}</Notice>
        ) : null}
      </section>
    </div>
  );
}
