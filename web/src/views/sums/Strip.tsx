import { figure } from "../../parts/numbers";
import type { Answer } from "./useSum";

const SIZE = { width: 340, height: 46 };
const ROOM = 1.3;

/** A figure on its own scale, with its range as a band: the gauge of a sum that pours nothing. */
export function Strip({ item }: { item: Answer["figures"][number] }) {
  const [low, high] = [item.low ?? item.value, item.high ?? item.value];
  const most = Math.max(high, item.value, 1e-9) * ROOM;
  const x = (value: number) => (Math.max(0, value) / most) * SIZE.width;
  return (
    <svg viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} className="moves w-full max-w-[420px]" aria-hidden="true">
      <rect x="0.5" y="6" width={SIZE.width - 1} height="16" rx="4" fill="var(--quiet)" stroke="var(--line)" />
      <rect x={x(low)} y="6" width={Math.max(3, x(high) - x(low))} height="16" fill="var(--water)" />
      <path d={`M${x(item.value)} 1V27`} stroke="var(--rim)" strokeWidth="4" />
      <text x="0" y="42" fontSize="15" fill="var(--soft)">
        0
      </text>
      <text x={SIZE.width} y="42" fontSize="15" textAnchor="end" fill="var(--soft)">
        {figure(most)} {item.unit}
      </text>
    </svg>
  );
}
