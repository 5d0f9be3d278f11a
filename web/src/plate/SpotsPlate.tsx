import { RAYS } from "../api/rules";
import { withoutUnit } from "../parts/numbers";
import { Ground } from "./Ground";
import { labelPlaces } from "./labels";
import { type PlateSpot, plateScale } from "./layout";

export interface NamedSpot extends PlateSpot {
  name: string;
  /** What stands beside it, such as its score. */
  label: string;
  /** The one that stands first is filled. */
  isFirst: boolean;
}

const SIZE = { width: 340, height: 268 };

/** Several liquids on one plate, told apart by their labels. */
export function SpotsPlate({ spots }: { spots: readonly NamedSpot[] }) {
  const scale = plateScale(spots, SIZE);
  const points = spots.map((spot) => ({ x: scale.x(spot.sugar), y: scale.y(spot.acid), label: spot.label }));
  const labels = labelPlaces(points, SIZE.width);
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="w-full text-[15px]"
      role="img"
      aria-label={spots.map((spot) => spot.name).join(", ")}
    >
      <Ground scale={scale} ratios={RAYS} size={SIZE} />
      {spots.map((spot, n) => {
        const label = labels[n];
        return (
          <g key={spot.name}>
            <circle
              cx={points[n]?.x}
              cy={points[n]?.y}
              r="6.5"
              fill={spot.isFirst ? "var(--rim)" : "var(--enamel)"}
              stroke="var(--rim)"
              strokeWidth="2.5"
            >
              <title>{`${spot.name}: sugar ${withoutUnit("sugar_g_100ml", spot.sugar)}, acid ${withoutUnit("acid_g_100ml", spot.acid)}`}</title>
            </circle>
            {label ? (
              <text x={label.x} y={label.y} textAnchor={label.anchor} fill="var(--ink)" fontWeight="700">
                {spot.label}
              </text>
            ) : null}
          </g>
        );
      })}
    </svg>
  );
}
