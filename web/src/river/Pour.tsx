import type { Schemas } from "../api/client";
import { figure, GAP } from "../parts/numbers";
import { pour } from "./pourLayout";

const SIZE = { width: 340, height: 54 };
const BAND: Record<string, string> = { water: "water", sugar: "sugar", acid: "acid", spirit: "spirit", rest: "solids" };
const LETTER: Record<string, string> = { water: "w", sugar: "s", acid: "a", spirit: "p", rest: "r" };

/** What goes in, as streams into one vessel, and named below with its amount. */
export function Pour({ parts }: { parts: readonly Schemas["SumPart"][] }) {
  const streams = pour(parts, SIZE.width);
  return (
    <figure className="grid gap-2">
      <svg viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} className="moves w-full" aria-hidden="true">
        {streams.map((part) => (
          <g key={part.name}>
            <path
              data-band={BAND[part.kind] ?? "solids"}
              stroke="var(--outline)"
              d={`M${part.x} 0H${part.x + part.width}V${SIZE.height - 8}Q${part.x + part.width / 2} ${SIZE.height} ${part.x} ${SIZE.height - 8}Z`}
            />
            {part.width > 18 ? (
              <text
                x={part.x + part.width / 2}
                y="30"
                textAnchor="middle"
                fontSize="17"
                fontWeight="700"
                fill={part.kind === "spirit" ? "var(--on-rim)" : "var(--band-ink)"}
              >
                {LETTER[part.kind] ?? "r"}
              </text>
            ) : null}
          </g>
        ))}
      </svg>
      <figcaption>
        <ul className="flex flex-wrap gap-x-5 gap-y-1 text-[15px]">
          {streams.map((part) => (
            <li key={part.name}>
              <span aria-hidden="true" className="mr-1 font-bold">
                {LETTER[part.kind] ?? "r"}
              </span>
              {part.name}{" "}
              <span className="figures font-bold">
                {figure(part.amount)}
                {GAP}
                {part.unit}
              </span>
            </li>
          ))}
        </ul>
      </figcaption>
    </figure>
  );
}
