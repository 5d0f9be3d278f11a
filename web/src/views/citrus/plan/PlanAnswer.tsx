import type { Schemas } from "../../../api/client";
import { Notice } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import { Sideways } from "../../../parts/Sideways";
import { listed, moment } from "../../../parts/say";
import { Across } from "../../../river/Across";
import { canMake, useMoney, useSession } from "../../../session/session";
import { CutRow } from "./CutRow";
import { flowsOf, sparedWords } from "./flows";

type Answer = Schemas["PlanAnswer"];
type Plan = Schemas["PlanOut"];

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
  return (
    <>
      <section className="tray p-4" aria-label="From the case to the shelf">
        <p className="font-head text-[24px] leading-tight font-bold">{answer.text}</p>
        <p className="mt-1 text-soft">
          {money(String(answer.cost))} of fruit, {figure(answer.bin_g / 1000, 2)}
          {GAP}kg into the bin
          {sparedWords(answer, money)}
        </p>
        <Sideways label="The fruit and what it becomes" look="mt-3">
          <div className="min-w-[660px]">
            <Across flows={flows} names={names} />
          </div>
        </Sideways>
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
