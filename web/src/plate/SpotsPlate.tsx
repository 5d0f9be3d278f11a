import type { Figure } from "../api/client";
import { RAYS } from "../api/rules";
import { withoutUnit } from "../parts/numbers";
import { Ground } from "./Ground";
import { labelPlaces } from "./labels";
import { along, type PlateSpot, plateScale } from "./layout";

interface NamedSpot extends PlateSpot {
  name: string;
  /** What stands beside it, such as its score. */
  label: string;
  /** The one that stands first is filled. */
  isFirst: boolean;
}

const SIZE = { width: 340, height: 268 };

interface SpotsPlateProps {
  spots: readonly NamedSpot[];
  /** Where the next one should stand. */
  flag: PlateSpot | null;
  /** Where it is liked best, with its doubt. */
  liked: { sugar: Figure; acid: Figure } | null;
}

/** Several liquids on one plate, told apart by their labels; a flag where the next should stand, a halo where it is liked best. */
export function SpotsPlate({ spots, flag, liked }: SpotsPlateProps) {
  const scale = plateScale([...spots, ...(flag ? [flag] : [])], SIZE);
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
      {liked ? (
        <ellipse
          cx={(scale.x(liked.sugar.low) + scale.x(liked.sugar.high)) / 2}
          cy={(scale.y(liked.acid.low) + scale.y(liked.acid.high)) / 2}
          rx={Math.max(9, along(scale.x, (liked.sugar.high - liked.sugar.low) / 2))}
          ry={Math.max(9, along(scale.y, (liked.acid.high - liked.acid.low) / 2))}
          fill="var(--rim)"
          opacity="0.16"
        />
      ) : null}
      {/* The first is drawn last, above those that it lies on. */}
      {[...spots].reverse().map((spot, back) => {
        const n = spots.length - 1 - back;
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
      {flag ? (
        <g>
          <path d={`M${scale.x(flag.sugar)} ${scale.y(flag.acid)}v-34`} stroke="var(--warn)" strokeWidth="2.5" />
          <path d={`M${scale.x(flag.sugar)} ${scale.y(flag.acid) - 34}l-26 8l26 8z`} fill="var(--warn)">
            <title>{`the next: sugar ${withoutUnit("sugar_g_100ml", flag.sugar)}, acid ${withoutUnit("acid_g_100ml", flag.acid)}`}</title>
          </path>
        </g>
      ) : null}
    </svg>
  );
}
