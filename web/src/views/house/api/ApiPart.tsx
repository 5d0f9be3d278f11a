import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useMemo, useState } from "react";
import { ask } from "../../../api/queries";
import { Field } from "../../../parts/Field";
import { Empty, NotFetched, Shape } from "../../../parts/Notice";
import { Sideways } from "../../../parts/Sideways";
import { operationsOf } from "./operations";

/** What a script of the house may ask: every operation of the API, who may, and how it is asked. */
export function ApiPart() {
  const described = useQuery(ask.apiDescription());
  const [find, setFind] = useState("");
  const wanted = useDeferredValue(find);
  const parts = useMemo(() => (described.data ? operationsOf(described.data, wanted) : []), [described.data, wanted]);
  if (described.isPending) return <Shape rows={8} />;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
      <section className="tray p-5" aria-label="How it is asked">
        <h2 className="text-[20px]">How it is asked</h2>
        <p className="text-soft">A token goes with every request; answers are JSON. What was refused says why, where, and what to do.</p>
        <Sideways label="A request" look="mt-2 rounded-xl bg-quiet p-3">
          <pre className="figures text-[15px]">{`curl -H "Authorization: Bearer ulsek_…" ${location.origin}/api/specs`}</pre>
        </Sideways>
        <p className="mt-2 text-[15px] text-soft">
          A write may carry an <span className="figures">Idempotency-Key</span> of its own: sent twice, it is done once.
        </p>
        <a href="/api/openapi.json" download className="inline-flex min-h-11 items-center font-semibold text-rim underline">
          The whole description, with every field: openapi.json
        </a>
      </section>
      <NotFetched questions={[described]} />
      <Field label="Find an operation" value={find} onChange={setFind} placeholder="stock, specs, POST …" className="max-w-md" />
      {described.data && parts.length === 0 ? <Empty title="Nothing is called so">Look for another word of it.</Empty> : null}
      {parts.map(([part, operations]) => (
        <section key={part} className="tray p-5" aria-label={`Operations of ${part}`}>
          <h2 className="mb-1 text-[20px]">{part}</h2>
          <ul>
            {operations.map((item) => (
              <li key={`${item.method} ${item.path}`} className="grid gap-x-4 border-t border-line py-2 md:grid-cols-[minmax(0,1fr)_11rem]">
                <p className="min-w-0">
                  <span className="figures text-[15px] break-all">
                    <b>{item.method}</b> {item.path}
                  </span>
                  <span className="block text-[15px] text-soft">{item.about}</span>
                </p>
                <p className="text-[14px] text-soft md:text-right">
                  {item.role === "everybody" ? "anybody" : `a ${item.role}`}
                  {item.scripts ? "" : ", no script"}
                </p>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
