import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { NotFetched, Shape } from "../../parts/Notice";
import { Sheet } from "../../parts/Sheet";
import type { Wished } from "./link";
import { ownSums } from "./ownSums";
import { SumSheet } from "./SumSheet";
import { type Sum, useSums } from "./useSum";

const GROUPS: readonly (readonly [group: string, word: string])[] = [
  ["fix", "Put it right"],
  ["acid", "Acid"],
  ["sugar", "Sugar"],
  ["drink", "Drinks and money"],
  ["spirit", "Spirit"],
  ["limits", "Limits"],
  ["readings", "Readings"],
  ["kitchen", "Kitchen"],
  ["clear", "Clear and strengthen"],
  ["gas", "Gas"],
];
const LAST = "ulsek.sum";

/** What was typed last on this device, whatever became of the page. */
const kept = (): Record<string, Record<string, string>> => JSON.parse(localStorage.getItem(LAST) ?? "{}");

/** The sums, sliding up over the place; one of them, when one is chosen. */
export function QuickSums({ wished, onClose }: { wished: Wished; onClose: () => void }) {
  const sums = useSums();
  const [name, setName] = useState(wished.name);
  const [figures, setFigures] = useState(wished.figures);
  const chosen = sums.data?.find((item) => item.name === name);
  const choose = (next: string, given?: Record<string, string>) => {
    setName(next);
    setFigures(given ?? kept()[next] ?? {});
  };
  const put = (next: Record<string, string>) => {
    setFigures(next);
    localStorage.setItem(LAST, JSON.stringify({ ...kept(), [name]: next }));
  };
  return (
    <Sheet open onClose={onClose} title={chosen ? chosen.about : "Quick sums"} whole>
      {sums.isPending ? <Shape rows={4} /> : null}
      <NotFetched questions={[sums]} />
      {chosen ? (
        <SumSheet key={chosen.name} sum={chosen} figures={figures} onFigures={put} onBack={() => setName("")} onClose={onClose} />
      ) : sums.data ? (
        <SumList sums={sums.data} onChoose={choose} unknown={name} />
      ) : null}
    </Sheet>
  );
}

interface SumListProps {
  sums: readonly Sum[];
  onChoose: (name: string, figures?: Record<string, string>) => void;
  /** A name that a link asked for and that is none. */
  unknown: string;
}

function SumList({ sums, onChoose, unknown }: SumListProps) {
  const [wanted, setWanted] = useState("");
  const recent = useQuery({ ...ask.recentSums(), retry: false });
  const fits = (item: Sum) => `${item.about} ${item.group}`.toLowerCase().includes(wanted.trim().toLowerCase());
  const found = sums.filter(fits);
  const used = (recent.data?.items ?? []).map((item) => item.name);
  const mine = wanted ? [] : ownSums(sums, used, Object.keys(kept()));
  const others = found.filter((item) => !mine.includes(item));
  const groups = [
    { word: "Yours", members: mine },
    ...GROUPS.map(([group, word]) => ({ word, members: others.filter((item) => item.group === group) })),
  ];
  return (
    <>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (found[0]) onChoose(found[0].name);
        }}
      >
        <Field label="What do you need?" value={wanted} onChange={setWanted} autoFocus />
      </form>
      {unknown ? (
        <p className="mt-2 text-[15px] font-semibold text-warn">There is no sum called “{unknown}”. Choose one of these.</p>
      ) : null}
      {!wanted && recent.data?.items.length ? (
        <section className="mt-4">
          <h3 className="mb-2 text-[18px]">Yours, lately</h3>
          <ul className="flex flex-wrap gap-2">
            {recent.data.items.slice(0, 6).map((item) => (
              <li key={item.at}>
                <Button
                  onClick={() =>
                    onChoose(item.name, Object.fromEntries(Object.entries(item.figures).map(([key, value]) => [key, String(value)])))
                  }
                >
                  {sums.find((sum) => sum.name === item.name)?.about ?? item.name}: <span className="figures">{item.said}</span>
                </Button>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      <div className="mt-4 gap-x-8 md:columns-2">
        {groups.map(({ word, members }) => {
          if (members.length === 0) return null;
          return (
            <section key={word} className="mb-4 break-inside-avoid">
              <h3 className="mb-1 text-[18px]">{word}</h3>
              <ul>
                {members.map((item) => (
                  <li key={item.name}>
                    <button
                      type="button"
                      onClick={() => onChoose(item.name)}
                      className="min-h-13 w-full rounded-xl border border-transparent px-3 py-2 text-left text-[17px] font-semibold text-rim hover:border-rim hover:bg-pick"
                    >
                      {item.about}
                    </button>
                  </li>
                ))}
              </ul>
            </section>
          );
        })}
        {found.length === 0 ? <p className="p-2 text-soft">No sum is called that. Try “acid”, “syrup” or “drink”.</p> : null}
      </div>
    </>
  );
}
