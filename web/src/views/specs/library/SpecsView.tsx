import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { rowsOf } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { Job } from "../../../parts/Job";
import { useKeys } from "../../../parts/keys";
import { More } from "../../../parts/More";
import { Empty, NotFetched, Shape } from "../../../parts/Notice";
import { canLead, useSession } from "../../../session/session";
import { StartSheet } from "../start/StartSheet";
import { Booklet } from "./Booklet";
import { LibraryRow } from "./LibraryRow";
import { byFamily, isNarrowed, type Wish } from "./rows";

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
  const [wish, setWish] = useState<Wish>({
    find: search.get("find") ?? "",
    family: "",
    state: "",
    on_shelf: false,
  });
  const specs = useInfiniteQuery(ask.librarySlices(useDeferredValue(wish)));
  const words = useQuery(ask.words());
  const tasted = useQuery(ask.panelsNewest());
  const [open, setOpen] = useState<"start" | "booklet" | null>(null);
  const box = useRef<HTMLInputElement>(null);
  const families = words.data?.families ?? [];
  const change = (part: Partial<Wish>) => setWish((now) => ({ ...now, ...part }));
  useKeys([
    { key: "s", says: "search the library", does: () => box.current?.focus() },
    ...(canLead(session) ? [{ key: "n", says: "start a spec", does: () => setOpen("start") }] : []),
  ]);
  const items = rowsOf(specs.data);
  const asked = isNarrowed(wish);
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
        {byFamily(items, families).map((family) => (
          <section key={family.key} className="tray mb-4 break-inside-avoid p-5">
            <h2 className="mb-2 text-[20px]">{family.word}</h2>
            <ul>
              {family.items.map((item) => (
                <LibraryRow key={item.id} item={item} zone={session.zone} tasted={tasted.data?.find((row) => row.spec === item.id)} />
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
