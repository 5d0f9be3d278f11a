import { useState } from "react";
import { client, unwrap } from "../../../api/client";
import { USUAL } from "../../../api/rules";
import { canMake, useSession } from "../../../app/session";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Notice, Trouble } from "../../../parts/Notice";
import { figure, GAP, typed } from "../../../parts/numbers";
import { Pour } from "../../../river/Pour";
import { FruitChoice } from "../shared/FruitChoice";
import { useAct } from "../shared/useAct";
import { useLive } from "../shared/useLive";

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
  const [cup, setCup] = useState({ ml: "", grams: "" });
  const put = (key: keyof typeof form) => (value: string) => setForm((before) => ({ ...before, [key]: value }));
  const number = (key: keyof typeof form) => typed(form[key]) ?? 0;
  const { made, fault, elsewhere } = useLive(
    "oil-sugar",
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
  const weigh = useAct(() =>
    unwrap(client.POST("/api/citrus/packed-peel", { body: { fruit: form.fruit, ml: typed(cup.ml) ?? 0, grams: typed(cup.grams) ?? 0 } })),
  );
  const [spent, setSpent] = useState("");
  const teach = useAct(
    () =>
      unwrap(
        client.POST("/api/citrus/spent-peel", {
          body: {
            fruit: form.fruit,
            peel_g: number("peel_g"),
            spent_g: typed(spent) ?? 0,
            hours: number("hours"),
            warm_c: number("warm_c"),
          },
        }),
      ),
    () => setSpent(""),
  );
  const rows = made
    ? ([
        ["sugar to weigh", made.sugar_g, null],
        ["drawn out of the peel", made.drawn_g.value, made.drawn_g],
        ["of the sugar dissolved", made.dissolved_g, null],
        ["sugar still dry", made.dry_g, null],
      ] as const)
    : [];
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
        {canMake(session) && measure === "volume" ? (
          <div className="grid gap-2 border-t border-line pt-3">
            <h3 className="text-[17px]">Weigh a packed cup once</h3>
            <div className="grid grid-cols-2 gap-3">
              <Field
                label="Measure holds"
                unit="mL"
                inputMode="decimal"
                value={cup.ml}
                onChange={(ml) => setCup({ ...cup, ml })}
                fault={weigh.fault("ml")}
              />
              <Field
                label="Packed, it weighs"
                unit="g"
                inputMode="decimal"
                value={cup.grams}
                onChange={(grams) => setCup({ ...cup, grams })}
                fault={weigh.fault("grams")}
              />
            </div>
            <Button onClick={() => weigh.mutate()} disabled={weigh.isPending}>
              Teach it
            </Button>
            <Trouble error={weigh.fault("grams") ? null : weigh.error} />
          </div>
        ) : null}
      </section>
      <section className="grid content-start gap-4" aria-label="What runs off">
        {made ? (
          <>
            <div className="tray p-4">
              <p className="text-soft">Pours off</p>
              <p className="font-head text-[52px] leading-none font-extrabold">
                <span className="worked">{figure(made.pours_g.value, 0)}</span>
                <span className="ml-1 text-[20px] font-normal text-soft">
                  g, {figure(made.pours_g.low, 0)} to {figure(made.pours_g.high, 0)}
                </span>
              </p>
              <table className="mt-3 w-full max-w-xl text-[16px]">
                <tbody>
                  {rows.map(([name, value, range]) => (
                    <tr key={name} className="border-t border-line">
                      <th scope="row" className="py-1.5 text-left font-normal">
                        {name}
                      </th>
                      <td className="figures text-right font-bold">{figure(value)}</td>
                      <td className="pl-1 text-[14px] text-soft">g{range ? `, ${figure(range.low)} to ${figure(range.high)}` : ""}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <div className="mt-3 max-w-xl">
                <Pour
                  parts={[
                    { name: "drawn", amount: made.drawn_g.value, unit: "g", kind: "water" },
                    { name: "sugar in it", amount: made.dissolved_g, unit: "g", kind: "sugar" },
                    { name: "dry sugar", amount: made.dry_g, unit: "g", kind: "rest" },
                  ]}
                />
              </div>
              <p className="mt-3">
                Nearly all of it has run after {figure(made.hours_to_most, 0)}
                {GAP}h at this warmth. About {figure(made.oil_mg.value, 0)}
                {GAP}mg of oil with it.{" "}
                {made.jars
                  ? `By ${made.jars} ${made.jars === 1 ? "jar" : "jars"} of this house.`
                  : "House experience until this house's own peel has taught it."}
              </p>
              {canMake(session) ? (
                <form
                  className="mt-3 flex flex-wrap items-end gap-2 border-t border-line pt-3"
                  onSubmit={(event) => {
                    event.preventDefault();
                    teach.mutate();
                  }}
                >
                  <Field
                    label="This jar's peel, rinsed and drained, weighs"
                    unit="g"
                    className="w-80"
                    inputMode="decimal"
                    value={spent}
                    onChange={setSpent}
                    fault={teach.fault("spent_g") ?? teach.fault("hours")}
                  />
                  <Button type="submit" disabled={teach.isPending || !spent.trim()}>
                    Teach it
                  </Button>
                  <Trouble error={teach.fault("spent_g") || teach.fault("hours") ? null : teach.error} />
                </form>
              ) : null}
            </div>
            {made.remarks.map((text) => (
              <Notice key={text} severity="note">
                {text}
              </Notice>
            ))}
          </>
        ) : elsewhere ? (
          <Notice severity="stop">{elsewhere}</Notice>
        ) : null}
      </section>
    </div>
  );
}
