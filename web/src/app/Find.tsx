import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";
import { ask } from "../api/queries";
import { Field } from "../parts/Field";
import { Sheet } from "../parts/Sheet";
import { day } from "../parts/say";

interface Hit {
  to: string;
  name: string;
  about: string;
}

/** So many of each kind: what is called the same in one place never hides the others. */
const MOST = 6;
/** Parts of a place that go by a name of their own. */
const TOOLS: readonly Hit[] = [
  { to: "/citrus/skins", name: "Peel in sugar", about: "Citrus: oleo saccharum, oil-sugar" },
  { to: "/citrus/stretch", name: "Stretched juice", about: "Citrus: acids over peel, with the juice put back" },
];

const said = (hit: Hit) => `${hit.to} ${hit.name} ${hit.about}`;

/** What reads the same and leads to the same place stands once: ten deliveries of one product are one line. */
const distinct = (hits: readonly Hit[]): Hit[] => [...new Map(hits.map((hit) => [said(hit), hit])).values()];

/** Finds specs, batches, bottles and materials by any part of their name. */
export function Find({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [wanted, setWanted] = useState("");
  const sought = useDeferredValue(wanted.trim());
  const specs = useQuery({ ...ask.library({ find: sought }), enabled: open });
  const runs = useQuery({ ...ask.runs(sought), enabled: open });
  const lots = useQuery({ ...ask.lots(sought), enabled: open });
  const stock = useQuery({ ...ask.stockCalled(sought), enabled: open });
  const families = useQuery({ ...ask.words(), enabled: open }).data?.families ?? [];
  const named = (hit: Hit) => `${hit.name} ${hit.about}`.toLowerCase().includes(sought.toLowerCase());
  // All of them are found by the site; specs by any word in them and every name of their family.
  const found: Hit[] = (specs.data?.items ?? []).map((item) => ({
    to: `/specs/${item.id}`,
    name: item.name,
    about: `spec, ${families.find((family) => family.key === item.family)?.word.toLowerCase() ?? item.family}`,
  }));
  const kinds: Hit[][] = [
    found,
    sought ? TOOLS.filter(named) : [],
    (runs.data?.items ?? []).map((item) => ({ to: `/make/${item.id}`, name: item.name, about: `batch ${item.code}, ${item.step ?? ""}` })),
    (lots.data?.items ?? []).map((item) => ({
      to: `/lots/${item.code}`,
      name: item.name,
      about: item.use_by ? `bottles ${item.code}, use by ${day(item.use_by)}` : `bottles ${item.code}`,
    })),
    (stock.data?.items ?? []).map((item) => ({
      to: `/stores?find=${item.code}`,
      name: item.product,
      about: `in Stores, ${item.supplier}`,
    })),
  ];
  const hits = kinds.flatMap((kind) => distinct(kind).slice(0, MOST));
  return (
    <Sheet open={open} onClose={onClose} title="Find">
      <Field label="Any part of a name or number" value={wanted} onChange={setWanted} autoFocus />
      <ul className="mt-4">
        {hits.map((hit) => (
          <li key={said(hit)} className="border-b border-line last:border-0">
            <Link to={hit.to} onClick={onClose} className="flex min-h-11 items-baseline justify-between gap-4 py-2 hover:bg-pick">
              <span className="font-semibold">{hit.name}</span>
              <span className="text-right text-[14px] text-soft">{hit.about}</span>
            </Link>
          </li>
        ))}
        {hits.length === 0 && specs.data ? <li className="py-3 text-soft">Nothing here is called that.</li> : null}
      </ul>
    </Sheet>
  );
}
