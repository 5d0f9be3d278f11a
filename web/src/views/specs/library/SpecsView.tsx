import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Schemas } from "../../../api/client";
import { FIGURES } from "../../../api/figures";
import { rowsOf } from "../../../api/lists";
import { ask, type LibraryWish } from "../../../api/queries";
import { useKeys } from "../../../app/keys";
import { canLead, useMoney, useSession } from "../../../app/session";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { Job } from "../../../parts/Job";
import { More } from "../../../parts/More";
import { Empty, NotFetched, Shape } from "../../../parts/Notice";
import { figure, GAP, withoutUnit } from "../../../parts/numbers";
import { day } from "../../../parts/say";
import { StartSheet } from "../start/StartSheet";
import { Booklet } from "./Booklet";

const EVERY = "every";
const STATES = [
  { value: EVERY, label: "in any state" },
  { value: "published", label: "published" },
  { value: "draft", label: "drafts" },
  { value: "trial", label: "trials" },
  { value: "withdrawn", label: "withdrawn" },
] as const;

/** The house's library: specs by family, found by any word in them, by what they use, by what stands on the shelf. */
export function SpecsView() {
  const session = useSession();
  const [search] = useSearchParams();
  const [wish, setWish] = useState<Required<Omit<LibraryWish, "order">>>({
    find: search.get("find") ?? "",
    family: "",
    state: "",
    on_shelf: false,
  });
  const specs = useInfiniteQuery(ask.librarySlices(useDeferredValue(wish)));
  const words = useQuery(ask.words());
  const [open, setOpen] = useState<"start" | "booklet" | null>(null);
  const box = useRef<HTMLInputElement>(null);
  const families = words.data?.families ?? [];
  const change = (part: Partial<LibraryWish>) => setWish((now) => ({ ...now, ...part }));
  useKeys([
    { key: "s", says: "search the library", does: () => box.current?.focus() },
    ...(canLead(session) ? [{ key: "n", says: "start a spec", does: () => setOpen("start") }] : []),
  ]);
  const items = rowsOf(specs.data);
  const asked = wish.find !== "" || wish.family !== "" || wish.state !== "" || wish.on_shelf;
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1 className="text-[32px]">Specs</h1>
          <p className="text-soft" role="status">
            {specs.data ? `${specs.data.pages[0]?.total} ${asked ? "match" : "in the library"}` : ""}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => setOpen("booklet")}>Print a booklet</Button>
          <Job kind="library" file="Download the archive">
            Save the library
          </Job>
          {canLead(session) ? (
            <Button look="main" onClick={() => setOpen("start")} shortcut="N">
              Start a spec
            </Button>
          ) : null}
        </div>
      </div>
      <search className="tray mb-4 flex flex-wrap items-end gap-3 p-4">
        <Field
          ref={box}
          label="Any word: a name, a material, a note"
          placeholder="bergamot, birch, rested …"
          className="min-w-[min(100%,260px)] flex-1"
          value={wish.find}
          onChange={(find) => change({ find })}
        />
        <Choice
          label="Family"
          value={wish.family || EVERY}
          options={[{ value: EVERY, label: "of every family" }, ...families.map(({ key, word }) => ({ value: key, label: word }))]}
          onChange={(family) => change({ family: family === EVERY ? "" : family })}
        />
        <Choice
          label="State"
          value={(wish.state || EVERY) as (typeof STATES)[number]["value"]}
          options={STATES}
          onChange={(state) => change({ state: state === EVERY ? "" : state })}
        />
        <label className="flex min-h-11 items-center gap-2 text-[15px]">
          <input
            type="checkbox"
            className="size-5 accent-rim"
            checked={wish.on_shelf}
            onChange={(event) => change({ on_shelf: event.target.checked })}
          />
          on the shelf now
        </label>
      </search>
      <NotFetched questions={[specs]} />
      {specs.isPending ? <Shape rows={7} /> : null}
      {specs.data && items.length === 0 ? (
        <Empty title={asked ? "Nothing here answers to that" : "No spec yet"}>
          {asked
            ? "Leave a word out, or ask for every family and state."
            : "Here stand the house's syrups, cordials and stocks, each with its versions. Start with one that you make every week."}
        </Empty>
      ) : null}
      <div className="gap-4 lg:columns-2">
        {inOrder(items, families).map((family) => (
          <section key={family.key} className="tray mb-4 break-inside-avoid p-5">
            <h2 className="mb-2 text-[20px]">{family.word}</h2>
            <ul>
              {items
                .filter((item) => item.family === family.key)
                .map((item) => (
                  <LibraryRow key={item.id} item={item} zone={session.zone} />
                ))}
            </ul>
          </section>
        ))}
      </div>
      <More list={specs} />
      <StartSheet open={open === "start"} onClose={() => setOpen(null)} />
      <Booklet open={open === "booklet"} onClose={() => setOpen(null)} />
    </main>
  );
}

type Row = Schemas["SpecRow"];

/** What stands of a spec: its version or why not, who follows whom, what of it is on the shelf. */
function standing(item: Row, zone: string): string {
  if (item.state === "withdrawn") return `version ${item.version} withdrawn`;
  const parts = [item.version ? `version ${item.version}` : "draft, never published"];
  if (item.trial_of) parts.unshift(`trial beside ${item.trial_of}`);
  if (item.base) parts.push(`follows ${item.base}`);
  if (item.on_shelf_ml > 0) parts.push(`${figure(item.on_shelf_ml / 1000, 2)}${GAP}L on the shelf`);
  else if (item.last_made) parts.push(`last made ${day(item.last_made, zone)}`);
  return parts.join(" · ");
}

function LibraryRow({ item, zone }: { item: Row; zone: string }) {
  const money = useMoney();
  const gone = item.state === "withdrawn";
  return (
    <li className="border-t border-line">
      <Link
        to={`/specs/${item.id}`}
        className="-mx-2 grid min-h-14 items-center gap-x-4 rounded-lg px-2 py-2 hover:bg-pick sm:grid-cols-[1fr_auto]"
      >
        <span>
          <span className={`block font-bold ${gone ? "line-through decoration-warn" : ""}`}>{item.name}</span>
          <span className={`block text-[14px] ${gone ? "font-semibold text-warn" : "text-soft"}`}>{standing(item, zone)}</span>
        </span>
        {item.brief ? (
          <span className="figures grid grid-cols-[5.5rem_5.5rem_6rem] gap-x-2 text-right text-[15px]">
            <span>
              <b>{withoutUnit("brix", item.brief.brix)}</b>
              <span className="text-[14px] text-soft">
                {GAP}
                {FIGURES.brix.unit}
              </span>
            </span>
            <span>
              <b>{withoutUnit("acid_g_100ml", item.brief.acid_g_100ml)}</b>
              <span className="text-[14px] text-soft">{GAP}acid</span>
            </span>
            <span>
              {item.brief.unpriced.length > 0 ? (
                <span className="text-[14px] text-soft">part priced</span>
              ) : (
                <>
                  <b>{money(item.brief.cost_per_litre)}</b>
                  <span className="text-[14px] text-soft">/L</span>
                </>
              )}
            </span>
          </span>
        ) : null}
      </Link>
    </li>
  );
}

type Words = Schemas["FamilySheet"];

/** The families that the house's specs belong to, in the order in which makers work; one that has no word stands under its own key, last. */
function inOrder(items: readonly { family: string }[], families: readonly Words[]): readonly Words[] {
  const used = new Set(items.map((item) => item.family));
  const known = families.filter((family) => used.has(family.key));
  const others = [...used].filter((key) => !families.some((family) => family.key === key));
  return [...known, ...others.map((key) => ({ key, word: key }))];
}
