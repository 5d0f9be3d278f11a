import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { Shape } from "../../../parts/Notice";
import { figure } from "../../../parts/numbers";
import { day } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { recordDots } from "./recordLayout";

const SIZE = { width: 330, height: 160 };
const MARKS = ["○", "△", "□", "◇"];

/** mL from a kilogram, case by case: by supplier and size, so that dry fruit is seen before the shift. */
export function RecordChart({ fruit, name }: { fruit: string; name: string }) {
  const session = useSession();
  const found = useQuery(ask.citrusRecord(fruit));
  if (found.isPending) return <Shape rows={2} />;
  const points = [...(found.data ?? [])].reverse();
  const suppliers = [...new Set(points.map((point) => point.supplier))];
  return (
    <section className="tray p-4" aria-label={`Record of ${name}`}>
      <h2 className="text-[19px]">{name}: what a kilogram gave</h2>
      {points.length < 2 ? (
        <p className="mt-2 text-soft">
          {points.length ? "One case so far. " : ""}Every case that is measured or cut puts a point here: by week, supplier and size.
        </p>
      ) : (
        <>
          <Chart points={points} suppliers={suppliers} zone={session.zone} />
          <p className="text-[14px] text-soft">{suppliers.map((supplier, n) => `${MARKS[n % MARKS.length]} ${supplier}`).join(" · ")}</p>
        </>
      )}
    </section>
  );
}

interface ChartProps {
  points: readonly { came_at: string; supplier: string; size: string; ml_kg: number }[];
  suppliers: readonly string[];
  zone: string;
}

function Chart({ points, suppliers, zone }: ChartProps) {
  const scale = recordDots(
    points.map((point) => ({ at: new Date(point.came_at).getTime(), value: point.ml_kg })),
    SIZE,
  );
  const last = points.at(-1);
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="w-full max-w-[430px] text-[15px]"
      role="img"
      aria-label={points.map((point) => `${day(point.came_at, zone)}: ${figure(point.ml_kg, 0)} mL from ${point.supplier}`).join(", ")}
    >
      <path d={`M36 10V${SIZE.height - 26}H${SIZE.width - 8}`} fill="none" stroke="var(--rim)" strokeWidth="2" />
      {scale.marks.map((mark) => (
        <text key={mark.value} x="30" y={mark.y + 5} textAnchor="end" fill="var(--soft)">
          {mark.value}
        </text>
      ))}
      <text x="42" y={SIZE.height - 6} fill="var(--soft)">
        {points[0] ? day(points[0].came_at, zone) : ""}
      </text>
      <text x={SIZE.width - 8} y={SIZE.height - 6} textAnchor="end" fill="var(--soft)">
        {last ? day(last.came_at, zone) : ""}
      </text>
      <text x="44" y="20" fill="var(--soft)">
        mL a kg
      </text>
      {scale.dots.map((dot, n) => {
        const point = points[n];
        const newest = n === points.length - 1;
        return (
          <g key={point?.came_at}>
            <text
              x={dot.x}
              y={dot.y + 7}
              textAnchor="middle"
              fontSize={newest ? 26 : 20}
              fontWeight={newest ? 700 : 400}
              fill={newest ? "var(--rim)" : "var(--soft)"}
            >
              {MARKS[suppliers.indexOf(point?.supplier ?? "") % MARKS.length]}
              <title>{`${day(point?.came_at ?? "", zone)}, ${point?.supplier}${point?.size ? `, ${point.size}` : ""}: ${figure(point?.ml_kg ?? 0, 0)} mL a kg`}</title>
            </text>
            {newest ? (
              <text x={dot.x - 16} y={dot.y - 12} textAnchor="end" fontWeight="700" fill="var(--ink)">
                {figure(point?.ml_kg ?? 0, 0)}
              </text>
            ) : null}
          </g>
        );
      })}
    </svg>
  );
}
