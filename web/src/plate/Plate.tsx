import { type KeyboardEvent, type PointerEvent, type RefObject, useRef } from "react";
import { RAYS } from "../api/rules";
import { withoutUnit } from "../parts/numbers";
import { Ground } from "./Ground";
import { along, fromPoint, most, type PlateSpot, plateScale } from "./layout";

export interface PlateProps {
  spot: PlateSpot & { sugarHalf: number; acidHalf: number };
  pins: readonly (PlateSpot & { name: string })[];
  flag: PlateSpot | null;
  onFlag?: (spot: PlateSpot) => void;
  flagRef?: RefObject<SVGGElement | null>;
}

const SIZE = { width: 340, height: 268 };
const coordinates = ({ sugar, acid }: PlateSpot) => `${withoutUnit("sugar_g_100ml", sugar)}, acid ${withoutUnit("acid_g_100ml", acid)}`;
const STRIDE = { sugar: 0.5, acid: 0.05 };

/** Where it tastes: a spot with its halo, pins of the house's others, and a flag to drag where it should be. */
export function Plate({ spot, pins, flag, onFlag, flagRef }: PlateProps) {
  const picture = useRef<SVGSVGElement>(null);
  const dragging = useRef(false);
  const scale = plateScale([spot, ...(flag ? [flag] : [])], SIZE);
  const near = pins.filter((pin) => pin.sugar <= most(scale.x) && pin.acid <= most(scale.y));
  const stands = flag ?? spot;
  const [x, y] = [scale.x(stands.sugar), scale.y(stands.acid)];

  const move = (event: PointerEvent<SVGGElement>) => {
    const box = picture.current?.getBoundingClientRect();
    if (!dragging.current || !box || !onFlag) return;
    const factor = SIZE.width / box.width;
    onFlag(fromPoint(scale, (event.clientX - box.left) * factor, (event.clientY - box.top) * factor));
  };
  const step = (event: KeyboardEvent<SVGGElement>) => {
    const by = event.shiftKey ? 5 : 1;
    const moved = { ...stands };
    if (event.key === "ArrowRight") moved.sugar += STRIDE.sugar * by;
    else if (event.key === "ArrowLeft") moved.sugar -= STRIDE.sugar * by;
    else if (event.key === "ArrowUp") moved.acid += STRIDE.acid * by;
    else if (event.key === "ArrowDown") moved.acid -= STRIDE.acid * by;
    else return;
    event.preventDefault();
    event.stopPropagation();
    onFlag?.(fromPoint(scale, scale.x(moved.sugar), scale.y(moved.acid)));
  };

  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset
    <svg
      ref={picture}
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="moves w-full touch-none select-none text-[15px]"
      role="group"
      aria-label={`Sugar ${coordinates(spot)} g per 100 mL`}
    >
      <Ground scale={scale} ratios={RAYS} size={SIZE} />
      {near.map((pin) => (
        <circle
          key={pin.name}
          cx={scale.x(pin.sugar)}
          cy={scale.y(pin.acid)}
          r="4.5"
          fill="var(--enamel)"
          stroke="var(--soft)"
          strokeWidth="2"
        >
          <title>{`${pin.name}: sugar ${coordinates(pin)}`}</title>
        </circle>
      ))}
      <ellipse
        cx={scale.x(spot.sugar)}
        cy={scale.y(spot.acid)}
        rx={Math.max(9, along(scale.x, spot.sugarHalf))}
        ry={Math.max(9, along(scale.y, spot.acidHalf))}
        fill="var(--rim)"
        opacity="0.16"
      />
      <circle cx={scale.x(spot.sugar)} cy={scale.y(spot.acid)} r="6" fill="var(--rim)" />
      {flag ? (
        <line x1={scale.x(spot.sugar)} y1={scale.y(spot.acid)} x2={x} y2={y} stroke="var(--warn)" strokeWidth="2" strokeDasharray="3 4" />
      ) : null}
      {onFlag ? (
        <g
          ref={flagRef}
          role="slider"
          tabIndex={0}
          aria-label="Flag: where it should taste. Arrow keys move it"
          aria-valuemin={0}
          aria-valuemax={Math.round(most(scale.x))}
          aria-valuenow={Math.round(stands.sugar)}
          aria-valuetext={`sugar ${coordinates(stands)} g per 100 mL`}
          className="cursor-grab focus-visible:outline-3 focus-visible:outline-offset-4 focus-visible:outline-rim"
          onPointerDown={(event) => {
            dragging.current = true;
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onPointerMove={move}
          onPointerUp={() => {
            dragging.current = false;
          }}
          onPointerCancel={() => {
            dragging.current = false;
          }}
          onKeyDown={step}
        >
          <rect x={x - 22} y={y - 40} width="52" height="52" fill="transparent" />
          <path d={`M${x} ${y}V${y - 34}`} stroke="var(--warn)" strokeWidth="2.5" />
          <path d={`M${x} ${y - 34}l26 8l-26 8z`} fill="var(--warn)" />
        </g>
      ) : null}
    </svg>
  );
}
