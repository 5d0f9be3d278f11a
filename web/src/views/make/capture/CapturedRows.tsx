import { Button } from "../../../parts/Button";
import { FIRST_VESSEL, howMuch, type Row, vesselOf } from "./captured";

export interface CapturedRowsProps {
  rows: readonly Row[];
  vessels: readonly string[];
  onDrop: (id: string) => void;
}

/** What went in so far, each with its vessel where there is more than one. */
export function CapturedRows({ rows, vessels, onDrop }: CapturedRowsProps) {
  return (
    <ol className="grid gap-1">
      {rows.map((row, place) => (
        <li key={row.id} className="grid min-h-16 grid-cols-[40px_1fr_auto_auto] items-center gap-3 border-b border-line text-[20px]">
          <span className="figures text-right font-bold text-soft">{place + 1}</span>
          <span>
            <b>{row.name}</b>
            {vessels.length > 1 && row.body.from === undefined ? (
              <span className="block text-[18px] text-soft">in the {vesselOf(row) ?? FIRST_VESSEL}</span>
            ) : null}
          </span>
          <span className="figures text-[22px] font-bold">{howMuch(row)}</span>
          <Button look="quiet" onClick={() => onDrop(row.id)} aria-label={`Take back ${row.name}`}>
            Take back
          </Button>
        </li>
      ))}
    </ol>
  );
}
