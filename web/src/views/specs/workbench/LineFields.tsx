import type { SpecFile, SpecLine } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { AmountEditor } from "./AmountEditor";
import { removeLine } from "./body";

export interface LineFieldsProps {
  line: SpecLine;
  body: SpecFile;
  names: Readonly<Record<string, string>>;
  fault: string | undefined;
  edit: (change: (body: SpecFile) => SpecFile) => void;
}

/** One line of the selected step: what goes in, how much of it, and whether the batch is set by it. */
export function LineFields({ line, body, names, fault, edit }: LineFieldsProps) {
  const name = names[line.material] ?? line.material;
  return (
    <div className="rounded-xl bg-quiet p-3">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <span className="font-bold">{name}</span>
        <span className="flex gap-1">
          {body.driver === line.id ? (
            <span className="self-center px-2 text-[14px] text-soft">sets the batch</span>
          ) : line.amount?.kind === "fixed" ? (
            <Button look="quiet" onClick={() => edit((next) => ({ ...next, driver: line.id }))}>
              Set the batch by it
            </Button>
          ) : null}
          <Button look="quiet" onClick={() => edit(removeLine(line.id))} aria-label={`Leave out ${name}`}>
            Leave out
          </Button>
        </span>
      </div>
      <AmountEditor line={line} body={body} names={names} fault={fault} edit={edit} />
    </div>
  );
}
