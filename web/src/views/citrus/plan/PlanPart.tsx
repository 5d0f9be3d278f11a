import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { client, Problem, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Empty, Notice, Shape, Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { canMake, useSession } from "../../../session/session";
import { useAct } from "../common/useAct";
import { FruitInHand } from "./FruitInHand";
import { KeptPlans } from "./KeptPlans";
import { PlanAnswer } from "./PlanAnswer";
import { WantRow } from "./WantRow";
import { newWant, readWant, type TypedWant, typedWant } from "./wants";

type Plan = Schemas["PlanOut"];
type Chosen = Record<string, string>;

/** Given the fruit in hand and what is wanted by when: what is zested, peeled, juiced. Anything edited plans it anew. */
export function PlanPart() {
  const session = useSession();
  const cases = useQuery(ask.cases());
  const [plan, setPlan] = useState<Plan | null>(null);
  const [name, setName] = useState("");
  const [wants, setWants] = useState<TypedWant[]>(() => [newWant(session.zone)]);
  const [chosen, setChosen] = useState<Chosen>({});
  const [order, setOrder] = useState(false);
  const read = wants.map((want) => readWant(want, typed));
  const body = {
    name,
    cases: (cases.data ?? [])
      .filter((item) => chosen[item.id] !== "0")
      .map((item) => ({ case: item.id, count: chosen[item.id] ? typed(chosen[item.id] ?? "") : null })),
    wants: read.filter((want) => want !== null),
    order,
  };
  const asked = useDeferredValue(JSON.stringify(body));
  const worked = useQuery({
    queryKey: ["citrus", "plan", asked],
    queryFn: ({ signal }) => unwrap(client.POST("/api/citrus/plan", { body: JSON.parse(asked), signal })),
    enabled: cases.data !== undefined && body.wants.length > 0 && (body.cases.length > 0 || order) && plan === null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const open = (found: Plan) => {
    setPlan(found);
    setName(found.name);
    setWants(found.wants.map((want) => typedWant(want, session.zone)));
    const counts = new Map(found.cases.map((item) => [item.case, item.count == null ? "" : String(item.count)]));
    setChosen(Object.fromEntries([...counts, ...(cases.data ?? []).map((item) => [item.id, counts.get(item.id) ?? "0"])]));
    setOrder(false);
  };
  const keep = useAct(
    () =>
      plan
        ? unwrap(client.PUT("/api/citrus/plans/{plan_id}", { params: { path: { plan_id: plan.id } }, body }))
        : unwrap(client.POST("/api/citrus/plans", { body })),
    open,
  );
  if (cases.isPending) return <Shape rows={5} />;
  const items = cases.data ?? [];
  const problem = worked.error instanceof Problem ? worked.error : null;
  const faultAt = (n: number, where: string) => (problem?.where.startsWith(`wants/${n}/${where}`) ? problem.detail : undefined);
  const edit = (next: TypedWant[]) => setWants(next);
  const answer = plan ? plan.answer : body.wants.length ? worked.data : undefined;
  const placed = read.some((_, n) => ["by", "amount", "fruits", "spec"].some((where) => faultAt(n, where)));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 xl:grid-cols-[minmax(0,1fr)_minmax(0,1.35fr)]">
      <section className="tray grid content-start gap-4 p-4" aria-label="What is wanted">
        <div className="flex flex-wrap items-center justify-between gap-2">
          <h2 className="text-[20px]">{plan ? plan.name : "Wanted"}</h2>
          {plan ? (
            <Button
              onClick={() => {
                setPlan(null);
                setName("");
                setWants([newWant(session.zone)]);
                setChosen({});
              }}
            >
              A new plan
            </Button>
          ) : null}
        </div>
        <ul className="grid gap-3">
          {wants.map((want, n) => (
            <WantRow
              key={want.key}
              want={want}
              faults={{ by: faultAt(n, "by"), amount: faultAt(n, "amount") ?? faultAt(n, "takes") }}
              onChange={(next) => edit(wants.map((each) => (each.key === want.key ? next : each)))}
              onDrop={() => edit(wants.filter((each) => each.key !== want.key))}
            />
          ))}
        </ul>
        <Button onClick={() => edit([...wants, newWant(session.zone, { fruit: wants.at(-1)?.fruit ?? "", by: wants.at(-1)?.by ?? "" })])}>
          Something else is wanted
        </Button>
        <FruitInHand cases={items} chosen={chosen} onChoose={setChosen} />
        <label className="flex min-h-11 items-center gap-3 text-[16px]">
          <input type="checkbox" className="size-5 accent-rim" checked={order} onChange={(event) => setOrder(event.target.checked)} />
          and what must be ordered for it, by the case
        </label>
        {canMake(session) ? (
          <>
            <Field label="Name of the plan" value={name} onChange={setName} placeholder="Friday's fruit" />
            <Button look="main" disabled={body.wants.length === 0 || keep.isPending} onClick={() => keep.mutate()}>
              {plan ? "Plan it anew" : "Keep this plan"}
            </Button>
          </>
        ) : null}
        <Trouble error={keep.error} />
        <KeptPlans zone={session.zone} onOpen={open} />
      </section>
      <section className="grid grid-cols-[minmax(0,1fr)] content-start gap-4" aria-label="The plan">
        {!plan && problem && !placed ? (
          <Notice severity="stop" live>
            {problem.detail}
          </Notice>
        ) : null}
        {answer ? (
          <PlanAnswer answer={answer} plan={plan} onDone={open} />
        ) : (
          <Empty title="The plan stands here">
            Say what is wanted, of which fruit and by when. Ulsek says what is zested, peeled and juiced, and keeps the bin small.
          </Empty>
        )}
      </section>
    </div>
  );
}
