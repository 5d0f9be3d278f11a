import { marks, type PlateScale, rays } from "./layout";

interface GroundProps {
  scale: PlateScale;
  ratios: readonly number[];
  size: { width: number; height: number };
}

/** What every plate stands on: rays of equal sugar to acid, the axes, their marks and names. */
export function Ground({ scale, ratios, size }: GroundProps) {
  const [left = 0, right = 0] = scale.x.range();
  const [bottom = 0, top = 0] = scale.y.range();
  return (
    <>
      {rays(scale, ratios, size.width).map(({ ratio, x, y, label }) => (
        <g key={ratio}>
          <line x1={left} y1={bottom} x2={x} y2={y} stroke="var(--line)" strokeWidth="1.3" />
          {label ? (
            <text x={label.x} y={label.y} fill="var(--soft)" textAnchor={label.anchor}>
              {ratio}:1
            </text>
          ) : null}
        </g>
      ))}
      <path d={`M${left} ${top}V${bottom}H${right}`} fill="none" stroke="var(--rim)" strokeWidth="2" />
      {marks(scale.x).map((mark) => (
        <text key={mark} x={scale.x(mark)} y={bottom + 18} textAnchor="middle" fill="var(--soft)">
          {mark}
        </text>
      ))}
      {marks(scale.y).map((mark) => (
        <text key={mark} x={left - 8} y={scale.y(mark) + 5} textAnchor="end" fill="var(--soft)">
          {mark}
        </text>
      ))}
      <text x={right} y={size.height - 8} textAnchor="end" fill="var(--soft)">
        sugar, g per 100 mL
      </text>
      <text x={left + 8} y={14} fill="var(--soft)">
        acid, g per 100 mL
      </text>
    </>
  );
}
