import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { NotFetched, Shape, Trouble } from "../../../parts/Notice";
import { type Ticked, tickedSent } from "./rows";
import { useReceiveMany } from "./useReceiveMany";

/** What most bars have: tick it, correct the pack, write a price where it is known. */
export function UsualShelf() {
  const usual = useQuery(ask.usualShelf());
  const [ticked, setTicked] = useState<Readonly<Record<string, Ticked>>>({});
  const receive = useReceiveMany();
  if (usual.isPending) return <Shape rows={4} />;
  const put = (key: string, next: Ticked | null) =>
    setTicked(({ [key]: _before, ...others }) => (next ? { ...others, [key]: next } : others));
  const sent = tickedSent(ticked);
  return (
    <section className="tray p-5" aria-label="The usual shelf">
      <h2 className="text-[22px]">The usual shelf</h2>
      <p className="mb-3 text-soft">
        Tick what you have. The pack is what one is usually bought in; a price that nobody knows is left empty.
      </p>
      <NotFetched questions={[usual]} />
      <div className="grid gap-x-8 gap-y-5 md:grid-cols-2">
        {usual.data?.map((group) => (
          <fieldset key={group.name} className="min-w-0">
            <legend className="mb-1 font-head text-[18px] font-bold first-letter:uppercase">{group.name}</legend>
            <ul>
              {group.items.map((item) => {
                const row = ticked[item.material];
                return (
                  <li key={item.material} className="border-t border-line">
                    <label className="flex min-h-11 cursor-pointer items-center gap-3 text-[16px]">
                      <input
                        type="checkbox"
                        className="size-5 accent-rim"
                        checked={row !== undefined}
                        onChange={(event) =>
                          put(item.material, event.target.checked ? { product: item.name, pack: item.pack, price: "" } : null)
                        }
                      />
                      {item.name}
                      {item.had ? <span className="text-[14px] text-soft">in the house</span> : null}
                    </label>
                    {row ? (
                      <div className="grid grid-cols-2 gap-2 pb-3 pl-8">
                        <Field label="A pack holds" value={row.pack} onChange={(pack) => put(item.material, { ...row, pack })} />
                        <Field
                          label="A pack costs"
                          inputMode="decimal"
                          value={row.price}
                          onChange={(price) => put(item.material, { ...row, price })}
                        />
                      </div>
                    ) : null}
                  </li>
                );
              })}
            </ul>
          </fieldset>
        ))}
      </div>
      <Trouble error={receive.error} />
      <Button look="main" className="mt-4" disabled={receive.isPending || sent.length === 0} onClick={() => receive.mutate(sent)}>
        {sent.length === 0 ? "Nothing is ticked yet" : `Put ${sent.length} on the shelf`}
      </Button>
    </section>
  );
}
