import type { Schemas } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { figure, GAP } from "../../../parts/numbers";
import type { Happening } from "../run/useBench";

export interface RepairCardProps {
  repair: Schemas["Repair"];
  record: (...happened: Happening[]) => Promise<void>;
}

/** The smallest way back: take it, put it off, or leave the batch as it is. */
export function RepairCard({ repair, record }: RepairCardProps) {
  const { id, additions } = repair;
  const possible = additions.length > 0;
  return (
    <section aria-label="A way back" className="rounded-[14px] border-l-[9px] border-acid bg-quiet p-4 text-[20px]">
      {possible ? (
        <p className="font-bold">
          {additions.map((item, i) => (
            <span key={item.line}>
              {i ? " and " : "Add "}
              {figure(item.mass_g)}
              {GAP}g {item.name.split(",")[0]?.toLowerCase()}
            </span>
          ))}{" "}
          before bottling.
        </p>
      ) : (
        <p className="font-bold">{repair.text}</p>
      )}
      <p className="mt-1 text-[18px] text-soft">{repair.effect}</p>
      <div className="mt-3 flex flex-wrap gap-3">
        {possible ? (
          <Button
            look="main"
            className="min-h-16 px-6 text-[18px]"
            onClick={() => void record(["repair_taken", { repair: id, additions }])}
          >
            Take it
          </Button>
        ) : null}
        {repair.state === "offered" ? (
          <Button className="min-h-16 px-6 text-[18px]" onClick={() => void record(["repair_put_off", { repair: id }])}>
            Put it off
          </Button>
        ) : null}
        <Button look="quiet" className="min-h-16 px-6 text-[18px]" onClick={() => void record(["repair_refused", { repair: id }])}>
          Leave it as it is
        </Button>
      </div>
    </section>
  );
}
