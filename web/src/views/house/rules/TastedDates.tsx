import { useMutation } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { useKeptSheet } from "./useKeptSheet";

/** How long the house finds its own specs good, as they tasted: each with who, why and since when, and the way to let it go. */
export function TastedDates({ rows }: { rows: readonly Schemas["SpecQualityRow"][] }) {
  const settled = useKeptSheet();
  const drop = useMutation({
    mutationFn: (key: string) => unwrap(client.POST("/api/rules/one/drop", { body: { table: "spec_quality", key } })),
    onSuccess: settled,
  });
  return (
    <section className="tray p-5" aria-label="As it tasted">
      <h2 className="text-[20px]">As it tasted</h2>
      <p className="mb-2 text-soft">
        None ships: a panel of an old bottle beside a young one shortens how long one of your own specs is good. Without it, what the other
        rules say holds for what is made from then on.
      </p>
      <ul>
        {rows.map((row) => (
          <li key={row.key} className="flex flex-wrap items-start justify-between gap-3 border-t border-line py-3">
            <div className="min-w-0 flex-1 basis-64">
              <p className="text-[17px]">
                <b>{row.name}</b> is good for {row.days} {row.days === 1 ? "day" : "days"}
              </p>
              <p className="text-[15px]">
                {row.by}: {row.why}
              </p>
              <p className="text-[14px] text-soft">
                {row.source} · {row.dated}
              </p>
            </div>
            <Button
              look="quiet"
              disabled={drop.isPending}
              onClick={() => drop.mutate(row.key)}
              aria-label={`Without the date of ${row.name}`}
            >
              Take off
            </Button>
          </li>
        ))}
      </ul>
      <Trouble error={drop.error} />
    </section>
  );
}
