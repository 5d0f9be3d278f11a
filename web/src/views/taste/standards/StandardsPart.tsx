import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { rowsOf } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { More } from "../../../parts/More";
import { NotFetched } from "../../../parts/Notice";
import { KeepStandard } from "./KeepStandard";
import { heldWords } from "./standards";

/** The house's standards: what is held of each, and whether it may be tasted today. */
export function StandardsPart({ may }: { may: boolean }) {
  const standards = useInfiniteQuery(ask.standards());
  const [open, setOpen] = useState(false);
  const rows = rowsOf(standards.data);
  if (!may && !rows.length && !standards.isError) return null;
  return (
    <section className="tray mt-3.5 p-4 md:p-5" aria-label="Standards">
      <div className="mb-1 flex flex-wrap items-center justify-between gap-3">
        <h2 className="text-[20px]">Standards to taste against</h2>
        {may ? <Button onClick={() => setOpen(true)}>Keep a standard</Button> : null}
      </div>
      {standards.data && !rows.length ? (
        <p className="text-soft">
          None yet. Freeze some portions of a bottle that is as it should be, or name a version that is made again by weight: batches stand
          beside it by date, and panels taste against it.
        </p>
      ) : null}
      <ul>
        {rows.map((row) => (
          <li key={row.id} className="border-t border-line first:border-t-0">
            <Link
              to={`/taste/standards/${row.id}`}
              className="grid gap-x-6 gap-y-1 py-3 hover:bg-pick md:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]"
            >
              <span>
                <b className="text-[17px]">{row.name}</b>
                <span className="block text-[15px] text-soft">
                  {row.code} · version {row.version}
                  {row.place ? ` · ${row.place}` : ""}
                </span>
              </span>
              <span>
                <span className="font-semibold">{heldWords(row)}</span>
                {row.stop ? <span className="block text-[15px] font-semibold text-warn">{row.stop}</span> : null}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      <More list={standards} />
      <NotFetched questions={[standards]} />
      <KeepStandard open={open} onClose={() => setOpen(false)} />
    </section>
  );
}
