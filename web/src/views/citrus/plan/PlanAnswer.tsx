import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { canMake, useMoney, useSession } from "../../../app/session";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Notice, Trouble } from "../../../parts/Notice";
import { figure, GAP, typed } from "../../../parts/numbers";
import { listed, moment } from "../../../parts/say";
import { Across } from "../../../river/Across";
import type { Flow } from "../../../river/acrossLayout";
import { useAct } from "../common/useAct";
import { unitOf } from "./wants";

type Answer = Schemas["PlanAnswer"];
type Plan = Schemas["PlanOut"];
type Cut = Answer["cuts"][number];

/** The plan's streams: from each case to what is wanted, to what stays over, and into the bin. */
function flowsOf(answer: Answer): { flows: Flow[]; names: Map<string, string> } {
  const names = new Map<string, string>([["bin", "into the bin"]]);
  for (const item of answer.sources) names.set(item.case, item.name);
  for (const want of answer.wants) names.set(`want ${want.key}`, want.name);
  const flows: Flow[] = answer.shares.map((share) => ({
    from: share.case,
    to: `want ${share.want}`,
    kind: share.kind,
    grams: share.grams,
  }));
  for (const item of answer.over) {
    names.set(`over ${item.kind}`, `${item.kind} over`);
    flows.push({ from: item.case, to: `over ${item.kind}`, kind: item.kind, grams: item.grams });
  }
  for (const item of answer.bins ?? []) flows.push({ from: item.case, to: "bin", kind: "rest", grams: item.grams });
  return { flows, names };
}

interface PlanAnswerProps {
  answer: Answer;
  /** The kept plan that this is the answer of; without one nothing can be carried out yet. */
  plan: Plan | null;
  onDone: (plan: Plan) => void;
}

/** What to cut, when and for what, as a river and as a list to work down. */
export function PlanAnswer({ answer, plan, onDone }: PlanAnswerProps) {
  const session = useSession();
  const money = useMoney();
  const { flows, names } = flowsOf(answer);
  const spared = answer.naive.bin_g - answer.bin_g;
  return (
    <>
      <section className="tray p-4" aria-label="From the case to the shelf">
        <p className="font-head text-[24px] leading-tight font-bold">{answer.text}</p>
        <p className="mt-1 text-soft">
          {money(String(answer.cost))} of fruit, {figure(answer.bin_g / 1000, 2)}
          {GAP}kg into the bin
          {answer.naive.short || spared <= 0
            ? "."
            : `; each want on its own would take ${answer.naive.fruits} fruits, ${money(String(answer.naive.cost))}, and bin ${figure(answer.naive.bin_g / 1000, 2)} kg.`}
        </p>
        <div className="mt-3 overflow-x-auto">
          <div className="min-w-[660px]">
            <Across flows={flows} names={names} />
          </div>
        </div>
        <p className="text-[14px] text-soft">j juice · z zest · p peel · w wheels · f whole fruit · hatched: into the bin</p>
      </section>
      {answer.short.map((item) => (
        <Notice key={`${item.want} ${item.kind}`} severity="stop">
          {item.text} By {moment(item.by, session.zone)}.
        </Notice>
      ))}
      {(answer.notes ?? []).map((text) => (
        <Notice key={text} severity="note">
          {text}
        </Notice>
      ))}
      {answer.packs.length ? (
        <section className="tray p-4" aria-label="To order">
          <h2 className="text-[20px]">To order</h2>
          <ul className="mt-1 text-[17px]">
            {answer.packs.map((item) => (
              <li key={item.fruit}>
                <b>
                  {item.packs} {item.packs === 1 ? "case" : "cases"}
                </b>{" "}
                of {item.each}: {item.fruit}, {item.price === null ? "price not known" : `about ${money(String(item.price))}`}
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      <section className="tray p-4" aria-label="What to cut">
        <h2 className="text-[20px]">What to cut, in order</h2>
        <ol className="mt-2 grid gap-2">
          {answer.cuts.map((cut) => (
            <CutRow key={cut.row} cut={cut} plan={plan} zone={session.zone} mayMake={canMake(session)} onDone={onDone} />
          ))}
        </ol>
      </section>
      {answer.over.length || answer.could.length ? (
        <section className="tray p-4" aria-label="Left over">
          <h2 className="text-[20px]">Left over, and who could take it</h2>
          <ul className="mt-1 grid gap-1 text-[16px]">
            {answer.over.map((item) => (
              <li key={`${item.case} ${item.kind}`}>
                <b>
                  {figure(item.amount, 0)}
                  {GAP}
                  {item.unit}
                </b>{" "}
                of {item.kind}, {item.fruit}
                {item.offers.length ? <span className="text-soft">: {listed(item.offers)} could take it</span> : null}
              </li>
            ))}
            {answer.could.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </section>
      ) : null}
    </>
  );
}

const SKIN = ["zest", "peel"] as const;
/** Units of what is measured; wheels and fruits are counted, and their kind says so. */
const MEASURED = ["mL", "g"];

interface CutRowProps {
  cut: Cut;
  plan: Plan | null;
  zone: string;
  mayMake: boolean;
  onDone: (plan: Plan) => void;
}

function CutRow({ cut, plan, zone, mayMake, onDone }: CutRowProps) {
  const [open, setOpen] = useState(false);
  const skin = SKIN.find((kind) => cut.gives[kind] !== undefined);
  const [count, setCount] = useState(String(cut.count));
  const [juice, setJuice] = useState("");
  const [skinG, setSkinG] = useState("");
  const [thrown, setThrown] = useState("");
  const done = plan?.done_rows.includes(cut.row) ?? false;
  const carry = useAct(
    () =>
      unwrap(
        client.POST("/api/citrus/plans/{plan_id}/cuts", {
          params: { path: { plan_id: plan?.id ?? "" } },
          body: {
            row: cut.row,
            count: typed(count) ?? 0,
            juice_ml: typed(juice) ?? 0,
            skin_g: typed(skinG) ?? 0,
            skin_binned_g: typed(thrown) ?? 0,
          },
        }),
      ),
    onDone,
  );
  const figures = { count, juice_ml: juice, skin_g: skinG, skin_binned_g: thrown };
  const unread = (name: keyof typeof figures) => figures[name].trim() !== "" && typed(figures[name]) === null;
  const fault = (name: keyof typeof figures) => (unread(name) ? "Write figures, such as 240." : carry.fault(name));
  const names = Object.keys(figures) as (keyof typeof figures)[];
  const gives = Object.entries(cut.gives).map(([kind, amount]) => {
    const range = cut.gives_range?.[kind];
    const spread = range && SKIN.some((skin_) => skin_ === kind) ? `(${figure(range.low ?? 0, 0)} to ${figure(range.high ?? 0, 0)})` : "";
    return [figure(amount, 0), MEASURED.includes(unitOf(kind)) ? unitOf(kind) : "", kind, spread].filter(Boolean).join(GAP);
  });
  const later = cut.then !== cut.at;
  return (
    <li className={`rounded-xl border p-3 ${done ? "border-line bg-quiet" : "border-rim"}`}>
      <div className="flex flex-wrap items-center justify-between gap-3">
        <p className="text-[17px]">
          <b className="figures">{cut.count}</b> <b>{cut.fruit}</b>: {cut.way}
          <span className="block text-[15px] text-soft">
            by {moment(cut.at, zone)}
            {later ? `, juiced by ${moment(cut.then, zone)}` : ""} · about {listed(gives)}
          </span>
        </p>
        {done ? (
          <span className="font-semibold text-good">✓ cut</span>
        ) : plan && mayMake && !plan.done_at ? (
          <Button onClick={() => setOpen(!open)} aria-expanded={open}>
            It is cut
          </Button>
        ) : null}
      </div>
      {open && !done ? (
        <form
          className="mt-3 flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (!names.some(unread)) carry.mutate();
          }}
        >
          <Field label="Fruits" className="w-24" inputMode="numeric" value={count} onChange={setCount} fault={fault("count")} />
          {cut.gives.juice === undefined ? null : (
            <Field
              label="Juice"
              unit="mL"
              className="w-36"
              inputMode="decimal"
              value={juice}
              onChange={setJuice}
              fault={fault("juice_ml")}
            />
          )}
          {skin ? (
            <Field
              label={skin === "zest" ? "Zest" : "Peel"}
              unit="g"
              className="w-36"
              inputMode="decimal"
              value={skinG}
              onChange={setSkinG}
              fault={fault("skin_g")}
            />
          ) : null}
          {skin ? (
            <Field
              label="Of it thrown"
              unit="g"
              className="w-36"
              inputMode="decimal"
              value={thrown}
              onChange={setThrown}
              fault={fault("skin_binned_g")}
            />
          ) : null}
          <Button look="main" type="submit" disabled={carry.isPending}>
            Keep it
          </Button>
          <Trouble error={names.some(fault) ? null : carry.error} />
        </form>
      ) : null}
    </li>
  );
}
