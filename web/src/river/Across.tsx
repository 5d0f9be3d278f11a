import { figure, GAP } from "../parts/numbers";
import { across, type Flow } from "./acrossLayout";

const SIZE = { width: 680, height: 320, bank: 185 };
/** Letters of a name that find room beside a bank. */
const LONGEST = 21;
const BAND: Record<string, string> = { juice: "acid", zest: "sugar", peel: "sugar", wheels: "spirit", whole: "acid", rest: "solids" };
const LETTER: Record<string, string> = { juice: "j", zest: "z", peel: "p", wheels: "w", whole: "f", rest: "" };

interface AcrossProps {
  flows: readonly Flow[];
  /** What each bank is called. */
  names: ReadonlyMap<string, string>;
}

/** From the case to the shelf: what each fruit becomes, with the bin as the stream that should be small. */
export function Across({ flows, names }: AcrossProps) {
  const { left, right, ribbons } = across(flows, SIZE.height);
  const most = Math.max(...[...left, ...right].map((bank) => Math.max(bank.y + bank.height, bank.y + 30)));
  const [x0, x1] = [SIZE.bank, SIZE.width - SIZE.bank];
  const bend = (x0 + x1) / 2;
  const said = (key: string) => names.get(key) ?? key;
  return (
    <svg
      viewBox={`0 -6 ${SIZE.width} ${most + 28}`}
      className="moves w-full text-[15px]"
      role="img"
      aria-label={`From the case to the shelf: ${ribbons.map((flow) => `${figure(flow.grams, 0)} g of ${flow.kind} to ${said(flow.to)}`).join(", ")}`}
    >
      <defs>
        <pattern id="across-lost" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V7" stroke="var(--soft)" strokeWidth="2" />
        </pattern>
      </defs>
      {ribbons.map((flow) => (
        <g key={`${flow.from} ${flow.kind} ${flow.to}`}>
          <path
            data-band={flow.to === "bin" ? undefined : (BAND[flow.kind] ?? "solids")}
            fill={flow.to === "bin" ? "url(#across-lost)" : undefined}
            stroke="var(--outline)"
            d={`M${x0} ${flow.y0}C${bend} ${flow.y0} ${bend} ${flow.y1} ${x1} ${flow.y1}V${flow.y1 + flow.width}C${bend} ${flow.y1 + flow.width} ${bend} ${flow.y0 + flow.width} ${x0} ${flow.y0 + flow.width}Z`}
          />
          {flow.width > 16 && flow.to !== "bin" ? (
            <text
              x={x0 + 14}
              y={flow.y0 + flow.width / 2 + 5}
              fontWeight="700"
              fill={flow.kind === "wheels" ? "var(--on-rim)" : "var(--band-ink)"}
            >
              {LETTER[flow.kind]}
            </text>
          ) : null}
        </g>
      ))}
      {left.map((bank) => (
        <Bank key={bank.key} x={x0} y={bank.y} height={bank.height} anchor="end" name={said(bank.key)} grams={bank.grams} />
      ))}
      {right.map((bank) => (
        <Bank key={bank.key} x={x1} y={bank.y} height={bank.height} anchor="start" name={said(bank.key)} grams={bank.grams} />
      ))}
    </svg>
  );
}

interface BankProps {
  x: number;
  y: number;
  height: number;
  anchor: "start" | "end";
  name: string;
  grams: number;
}

function Bank({ x, y, height, anchor, name, grams }: BankProps) {
  const at = anchor === "end" ? x - 10 : x + 10;
  const short = name.length > LONGEST ? `${name.slice(0, LONGEST - 1)}…` : name;
  return (
    <g>
      <path d={`M${x} ${y}V${y + height}`} stroke="var(--rim)" strokeWidth="4" />
      <text x={at} y={y + Math.max(12, height / 2 + 2)} textAnchor={anchor} fontWeight="700" fill="var(--ink)">
        {short}
        <title>{name}</title>
      </text>
      <text x={at} y={y + Math.max(28, height / 2 + 18)} textAnchor={anchor} fill="var(--soft)">
        {figure(grams, 0)}
        {GAP}g
      </text>
    </g>
  );
}
