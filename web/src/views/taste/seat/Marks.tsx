import { RadioGroup } from "radix-ui";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { TASTING } from "../../../api/rules";

interface MarksProps {
  attributes: readonly Schemas["AskedAttribute"][];
  onChange: (marks: Record<string, number> | null) => void;
}

const STEPS = Array.from({ length: TASTING.most_mark - TASTING.least_mark + 1 }, (_, step) => TASTING.least_mark + step);
const MIDDLE = (TASTING.least_mark + TASTING.most_mark) / 2;

/** What a mark says: its end of the scale for the outer ones. */
function said(attribute: Schemas["AskedAttribute"], mark: number): string {
  if (mark === MIDDLE) return "just right";
  const end = mark < MIDDLE ? attribute.little : attribute.much;
  return Math.abs(mark - MIDDLE) > 1 ? `far ${end.replace(/^not (.*) enough$/, "from $1 enough")}` : end;
}

/** Scales that are just about right in the middle; none is marked beforehand. */
export function Marks({ attributes, onChange }: MarksProps) {
  const [marks, setMarks] = useState<Record<string, number>>({});
  const put = (key: string, mark: number) => {
    const next = { ...marks, [key]: mark };
    setMarks(next);
    onChange(Object.keys(next).length === attributes.length ? next : null);
  };
  return (
    <div className="grid gap-4">
      {attributes.map((attribute) => (
        <div key={attribute.key}>
          <p className="mb-1 flex items-baseline justify-between">
            <b className="text-[17px]">{attribute.name}</b>
            <span className="text-[15px] text-soft">{marks[attribute.key] ? said(attribute, marks[attribute.key] ?? MIDDLE) : ""}</span>
          </p>
          <RadioGroup.Root
            aria-label={attribute.name}
            value={String(marks[attribute.key] ?? "")}
            onValueChange={(mark) => put(attribute.key, Number(mark))}
            className="grid grid-cols-5 gap-1.5"
          >
            {STEPS.map((mark) => (
              <RadioGroup.Item
                key={mark}
                value={String(mark)}
                aria-label={said(attribute, mark)}
                className={`h-12 rounded-xl border-2 data-[state=checked]:border-rim data-[state=checked]:bg-rim ${mark === MIDDLE ? "border-rim" : "border-line"}`}
              />
            ))}
          </RadioGroup.Root>
          <p className="flex justify-between text-[14px] text-soft" aria-hidden="true">
            <span>{attribute.little}</span>
            <span>{attribute.much}</span>
          </p>
        </div>
      ))}
    </div>
  );
}
