import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { FIGURES } from "../../../api/figures";
import { USUAL } from "../../../api/rules";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { MaterialPicker } from "../../../parts/MaterialPicker";
import { Notice } from "../../../parts/Notice";
import { figure, GAP, typed, withoutUnit, withUnit } from "../../../parts/numbers";
import { span } from "../../../parts/say";
import { useLive } from "../../../parts/useLive";
import { useRegister } from "../../../parts/useRegister";

const FIELDS = ["mass_g", "want_brix", "warm_c"];
const MINUTE_MS = 60_000;
/** For a juice in hand: how it is cleared or made stronger, each way worked out on this very juice. */
export function DeskPart() {
  const [material, setMaterial] = useState({ key: "bergamot_juice", name: "Bergamot juice" });
  const [mass, setMass] = useState(String(USUAL.desk_g));
  const [brix, setBrix] = useState(String(USUAL.stronger_brix));
  const [warm, setWarm] = useState(String(USUAL.enzyme_c));
  const finest = Math.min(...useRegister("scale").map(({ figures }) => figures.resolution_g ?? Number.POSITIVE_INFINITY));
  const [chosen, setScale] = useState<string | null>(null);
  const scale = chosen ?? String(Number.isFinite(finest) ? finest : USUAL.fine_scale_g);
  const [aim, setAim] = useState<"clear" | "stronger">("clear");
  const [missing, setMissing] = useState<string[]>([]);
  const { made, last, fault, elsewhere } = useLive(
    ["citrus", "desk"],
    {
      material: material.key,
      mass_g: typed(mass) ?? 0,
      warm_c: typed(warm) ?? 0,
      scale_g: typed(scale) ?? USUAL.fine_scale_g,
      missing,
      want_brix: aim === "stronger" ? (typed(brix) ?? 0) : null,
    },
    (body, signal) => unwrap(client.POST("/api/desk", { body, signal })),
    FIELDS,
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[340px_minmax(0,1fr)]">
      <section className="tray grid content-start gap-3 p-4" aria-label="The juice in hand">
        <MaterialPicker label={material.name} onPick={(key, name) => setMaterial({ key, name })} />
        <Field label="There is" unit="g" inputMode="decimal" value={mass} onChange={setMass} fault={fault("mass_g")} />
        <div className="flex flex-wrap gap-2">
          <Button look={aim === "clear" ? "main" : "plain"} aria-pressed={aim === "clear"} onClick={() => setAim("clear")}>
            Make it clear
          </Button>
          <Button look={aim === "stronger" ? "main" : "plain"} aria-pressed={aim === "stronger"} onClick={() => setAim("stronger")}>
            Make it stronger
          </Button>
        </div>
        {aim === "stronger" ? (
          <Field label="To" unit={FIGURES.brix.unit} inputMode="decimal" value={brix} onChange={setBrix} fault={fault("want_brix")} />
        ) : (
          <>
            <div className="grid grid-cols-2 gap-3">
              <Field label="Enzyme works at" unit="°C" inputMode="decimal" value={warm} onChange={setWarm} fault={fault("warm_c")} />
              <Field
                label="Scale reads to"
                unit="g"
                inputMode="decimal"
                value={scale}
                onChange={setScale}
                fault={typed(scale) === null ? `Write figures, such as ${USUAL.fine_scale_g}.` : undefined}
              />
            </div>
            <fieldset>
              <legend className="mb-1 text-[14px] text-soft">What is not to be had</legend>
              <div className="flex flex-wrap gap-2">
                {last?.missable.map(({ key, name }) => (
                  <Button
                    key={key}
                    look={missing.includes(key) ? "main" : "plain"}
                    aria-pressed={missing.includes(key)}
                    onClick={() => setMissing(missing.includes(key) ? missing.filter((each) => each !== key) : [...missing, key])}
                  >
                    no {name}
                  </Button>
                ))}
              </div>
            </fieldset>
          </>
        )}
        {made ? (
          <p className="text-[15px] text-soft">
            {made.name}: {withUnit("brix", made.brix)}, acid {withUnit("acid_g_100ml", made.acid_g_100ml)}
          </p>
        ) : null}
      </section>
      <section className="grid content-start gap-3" aria-label="Ways, best first">
        {elsewhere ? (
          <Notice severity="stop" live>
            {elsewhere}
          </Notice>
        ) : null}
        {aim === "clear"
          ? made?.without.map((text) => (
              <Notice key={text} severity="note">
                {text}
              </Notice>
            ))
          : null}
        {made?.ways.map((way, n) => (
          <Way key={way.verb} way={way} first={n === 0} />
        ))}
      </section>
    </div>
  );
}

function Way({ way, first }: { way: Schemas["MethodSeen"]; first: boolean }) {
  return (
    <article className={`tray grid gap-2 p-4 sm:grid-cols-[1fr_190px] ${way.missing ? "opacity-80" : first ? "border-2" : ""}`}>
      <div>
        <h2 className="text-[20px]">{way.name}</h2>
        <p>
          {way.dose_g ? (
            <b className="figures">
              {figure(way.dose_g)}
              {GAP}g:{" "}
            </b>
          ) : null}
          {way.dose}
        </p>
        <p className="text-soft">
          {way.flavour.charAt(0).toUpperCase() + way.flavour.slice(1)}. Gear: {way.gear}.{" "}
          {way.allergens.length ? <b className="text-warn">Allergen: {way.allergens.join(", ")}, and it stays. </b> : null}
          {way.last_time ? `This house last: ${way.last_time}.` : ""}
        </p>
        {way.against.map((text) => (
          <p key={text} className="mt-1 border-l-4 border-sugar pl-2 text-[15px]">
            {text}
          </p>
        ))}
      </div>
      <dl className="grid content-start gap-1.5 text-[15px] sm:text-right">
        <div>
          <dt className="text-[14px] text-soft">left of it</dt>
          <dd className="font-head text-[23px] leading-none font-bold">
            <span className="worked">{figure(way.left_g.value, 0)}</span>
            <span className="ml-1 text-[14px] font-normal text-soft">
              g, {figure(way.left_g.low, 0)} to {figure(way.left_g.high, 0)}
            </span>
          </dd>
        </div>
        {way.haze_taken === null ? null : (
          <div>
            <dt className="text-[14px] text-soft">of the haze it takes</dt>
            <dd className="font-bold">
              {figure(100 * way.haze_taken, 0)}
              {GAP}%
            </dd>
          </div>
        )}
        <div>
          <dt className="text-[14px] text-soft">takes about</dt>
          <dd className="font-bold">{span(way.minutes.value * MINUTE_MS)}</dd>
        </div>
        <div>
          <dt className="text-[14px] text-soft">stands at</dt>
          <dd>
            {withUnit("brix", way.brix)}, acid {withoutUnit("acid_g_100ml", way.acid_g_100ml)}
          </dd>
        </div>
      </dl>
    </article>
  );
}
