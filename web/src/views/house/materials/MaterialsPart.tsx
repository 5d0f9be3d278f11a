import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { useSearchParams } from "react-router";
import { client, unwrap } from "../../../api/client";
import { rowsOf, sliced } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { More } from "../../../parts/More";
import { Empty, NotFetched, Shape } from "../../../parts/Notice";
import { withUnit } from "../../../parts/numbers";
import { MaterialForm } from "./MaterialForm";

/** What the house says of its materials: its own ones, and typical ones with its own figures. */
export function MaterialsPart() {
  const [params, setParams] = useSearchParams();
  const chosen = params.get("material") ?? "";
  const [find, setFind] = useState("");
  const [every, setEvery] = useState(false);
  const wanted = useDeferredValue(find.trim());
  const of = every || wanted ? "bought" : "own";
  const list = useInfiniteQuery(
    sliced(["materials", "described", wanted, of], ({ limit, cursor }) =>
      unwrap(client.GET("/api/materials", { params: { query: { find: wanted, of, limit, cursor } } })),
    ),
  );
  const choices = useQuery(ask.materialChoices());
  const open = (material: string) => setParams(material ? { material } : {});
  const rows = rowsOf(list.data);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[360px_minmax(0,1fr)]">
      <section className={`tray p-4 ${chosen ? "max-lg:hidden" : ""}`} aria-label="Materials of the house">
        <h2 className="sr-only">Materials of the house</h2>
        <div className="mb-2 flex items-end gap-2">
          <Field className="w-full" label="Find a material" type="search" value={find} onChange={setFind} />
          <Button look="main" className="shrink-0" onClick={() => open("new")}>
            New one
          </Button>
        </div>
        <Button look="quiet" aria-pressed={every} onClick={() => setEvery(!every)}>
          {every ? "Our own alone" : "Every material that ships too"}
        </Button>
        {list.isPending ? <Shape rows={5} /> : null}
        <NotFetched questions={[list]} />
        {list.data && rows.length === 0 ? (
          <Empty title={wanted ? "Nothing is called so" : "None of your own yet"}>
            Everything that ships is known already. Describe what you buy that is not: from its label it takes a minute.
          </Empty>
        ) : null}
        <ul>
          {rows.map((item) => (
            <li key={item.key} className="border-t border-line">
              <button
                type="button"
                className={`grid min-h-12 w-full px-1 py-1.5 text-left ${chosen === item.key ? "bg-pick" : ""}`}
                aria-current={chosen === item.key ? "true" : undefined}
                onClick={() => open(item.key)}
              >
                <b>{item.name}</b>
                <span className="text-[14px] text-soft">
                  {[item.kind, item.figures.brix ? withUnit("brix", item.figures.brix.value) : "", item.source].filter(Boolean).join(" · ")}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <More list={list} />
      </section>
      {chosen && choices.data ? <Chosen key={chosen} material={chosen} choices={choices.data} open={open} /> : null}
    </div>
  );
}

function Chosen({
  material,
  choices,
  open,
}: {
  material: string;
  choices: Parameters<typeof MaterialForm>[0]["choices"];
  open: (key: string) => void;
}) {
  const file = useQuery({ ...ask.material(material), enabled: material !== "new" });
  if (material === "new") return <MaterialForm choices={choices} open={open} />;
  if (file.isPending) return <Shape rows={8} />;
  if (!file.data) return <NotFetched questions={[file]} />;
  return <MaterialForm file={file.data} choices={choices} open={open} />;
}
