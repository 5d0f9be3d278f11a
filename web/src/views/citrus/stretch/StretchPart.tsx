import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, unwrap } from "../../../api/client";
import { FIGURES } from "../../../api/figures";
import { USUAL } from "../../../api/rules";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Notice, Trouble } from "../../../parts/Notice";
import { figure, typed, withoutUnit } from "../../../parts/numbers";
import { useLive } from "../../../parts/useLive";
import { canLead, useSession } from "../../../session/session";
import { FruitChoice } from "../common/FruitChoice";
import { StretchAnswer } from "./StretchAnswer";

const FIELDS = ["juice_ml", "times", "target", "peel_g", "most_oil_mg_l"];
const SCHOOLS = [
  { value: "rest", word: "Acids rest on the peel", about: "two hours; oil of the peel, clear of pulp" },
  { value: "blend", word: "Blended", about: "minutes; more oil and pulp to strain" },
] as const;

/** Any citrus to so many times its juice: what goes in, how it stands beside fresh, what it saves. */
export function StretchPart() {
  const session = useSession();
  const go = useNavigate();
  const [form, setForm] = useState({
    fruit: "bergamot",
    juice_ml: String(USUAL.stretched_ml),
    times: String(USUAL.stretched_times),
    target: "",
    peel_g: "",
    most_oil_mg_l: "",
  });
  const [school, setSchool] = useState<"rest" | "blend">("rest");
  const put = (key: keyof typeof form) => (value: string) => setForm((before) => ({ ...before, [key]: value }));
  const number = (key: keyof typeof form) => (form[key].trim() ? typed(form[key]) : null);
  const asked = {
    fruit: form.fruit,
    juice_ml: number("juice_ml") ?? 0,
    times: number("times") ?? 0,
    school,
    target: number("target"),
    peel_g: number("peel_g"),
    most_oil_mg_l: number("most_oil_mg_l"),
  };
  const { made, fault, elsewhere } = useLive(
    ["citrus", "stretch"],
    asked,
    (body, signal) => unwrap(client.POST("/api/citrus/stretch", { body, signal })),
    FIELDS,
  );
  const spec = useMutation({
    mutationFn: () => unwrap(client.POST("/api/citrus/stretch/spec", { body: asked })),
    onSuccess: ({ spec: id }) => void go(`/specs/${id}`),
  });
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[340px_minmax(0,1fr)]">
      <section className="tray grid content-start gap-3 p-4" aria-label="What is stretched">
        <FruitChoice value={form.fruit} onChange={put("fruit")} />
        <Field label="Its juice" unit="mL" inputMode="decimal" value={form.juice_ml} onChange={put("juice_ml")} fault={fault("juice_ml")} />
        <Field label="To so many times" inputMode="decimal" value={form.times} onChange={put("times")} fault={fault("times")} />
        <fieldset className="grid gap-2">
          <legend className="mb-1 text-[14px] text-soft">School</legend>
          {SCHOOLS.map((item) => (
            <Button
              key={item.value}
              look={school === item.value ? "main" : "plain"}
              aria-pressed={school === item.value}
              onClick={() => setSchool(item.value)}
              className="justify-start py-1.5 text-left"
            >
              <span>
                {item.word}
                <span className="block text-[14px] font-normal">{item.about}</span>
              </span>
            </Button>
          ))}
        </fieldset>
        <Field
          label="Acid to reach"
          unit={FIGURES.acid_g_100ml.unit}
          inputMode="decimal"
          value={form.target}
          onChange={put("target")}
          placeholder={made ? withoutUnit("acid_g_100ml", made.fresh.acid_g_100ml ?? 0) : ""}
          fault={fault("target")}
        />
        <Field
          label="Peel weighed"
          unit="g"
          inputMode="decimal"
          value={form.peel_g}
          onChange={put("peel_g")}
          placeholder={made ? figure(made.peel_g, 0) : ""}
          fault={fault("peel_g")}
        />
        <Field
          label="Oil at most"
          unit="mg/L"
          inputMode="decimal"
          value={form.most_oil_mg_l}
          onChange={put("most_oil_mg_l")}
          placeholder={String(USUAL.stretched_oil_mg_l)}
          fault={fault("most_oil_mg_l")}
        />
      </section>
      <section className="grid content-start gap-4" aria-label="What it becomes">
        {elsewhere ? (
          <Notice severity="stop" live>
            {elsewhere}
          </Notice>
        ) : null}
        {made ? (
          <StretchAnswer made={made}>
            {canLead(session) ? (
              <div className="md:col-span-3">
                <Button onClick={() => spec.mutate()} disabled={spec.isPending}>
                  Make a spec of it
                </Button>
                <Trouble error={spec.error} />
              </div>
            ) : null}
          </StretchAnswer>
        ) : null}
      </section>
    </div>
  );
}
