import { type ReactNode, useId } from "react";
import { figure, GAP } from "../parts/numbers";
import { type Band, bandWord } from "../parts/say";
import { drawGauge } from "./layout";

export interface GaugeProps {
  bands: Readonly<Record<Band, number>>;
  target: number | null;
  tolerance: number;
  vessel: string;
  room: string;
  /** What stands under the vessel: its scale. */
  children?: ReactNode;
}

const [LEFT, RIGHT, TOP, BOTTOM] = [56, 244, 30, 462];

/** The vessel itself: what is in it now, and the line to reach. */
export function Gauge({ bands, target, tolerance, vessel, room, children }: GaugeProps) {
  const id = useId();
  const drawing = drawGauge({ bands, target, tolerance, top: TOP + 16, bottom: BOTTOM - 4 });
  const said = `${vessel}: ${figure(drawing.mass, 0)} g in it${target === null ? "" : `, ${figure(target, 0)} g wanted`}`;
  const apart = drawing.line === null || Math.abs(drawing.line - drawing.level) > 44;
  return (
    <figure className="grid h-full content-center">
      <svg viewBox="0 0 372 480" className="moves mx-auto max-h-[44dvh] w-full" role="img" aria-label={said}>
        <defs>
          <clipPath id={`${id}-inside`}>
            <path d={`M${LEFT} ${TOP}V${BOTTOM - 42}q0 40 40 40H${RIGHT - 40}q40 0 40 -40V${TOP}Z`} />
          </clipPath>
          <pattern id={`${id}-hatch`} width="12" height="12" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="5" height="12" fill="var(--good)" opacity="0.6" />
          </pattern>
        </defs>
        <g clipPath={`url(#${id}-inside)`}>
          <rect x={LEFT} y={TOP} width={RIGHT - LEFT} height={BOTTOM - TOP} fill="var(--quiet)" />
          {drawing.fills.map((fill) => (
            <rect key={fill.band} x={LEFT} y={fill.y} width={RIGHT - LEFT} height={fill.height + 1} data-band={fill.band} />
          ))}
          {drawing.band ? (
            <rect x={LEFT} y={drawing.band.y} width={RIGHT - LEFT} height={drawing.band.height} fill={`url(#${id}-hatch)`} />
          ) : null}
        </g>
        {drawing.fills
          .filter((fill) => fill.height >= 22)
          .map((fill) => (
            <text
              key={fill.band}
              x={LEFT + 16}
              y={fill.y + Math.min(fill.height / 2 + 6, 34)}
              className="text-[21px] font-semibold"
              fill="#13223A"
            >
              {bandWord(fill.band).charAt(0).toUpperCase()} {bandWord(fill.band)}
            </text>
          ))}
        <path
          d={`M${LEFT} ${TOP - 4}V${BOTTOM - 42}q0 42 42 42H${RIGHT - 42}q42 0 42 -42V${TOP - 4}`}
          fill="none"
          stroke="var(--rim)"
          strokeWidth="6"
          strokeLinecap="round"
        />
        {drawing.line === null || target === null ? null : (
          <g>
            <line x1={LEFT - 22} x2={RIGHT + 16} y1={drawing.line} y2={drawing.line} stroke="var(--good)" strokeWidth="4" />
            <text x={RIGHT + 22} y={drawing.line - 6} className="text-[22px] font-bold" fill="var(--good)">
              {figure(target, 0)}
              {GAP}g
            </text>
            <text x={RIGHT + 22} y={drawing.line + 20} className="text-[21px]" fill="var(--soft)">
              ±{GAP}
              {figure(tolerance, tolerance < 10 ? 1 : 0)}
              {GAP}g
            </text>
          </g>
        )}
        {drawing.mass > 0 && apart ? (
          <g>
            <line x1={RIGHT} x2={RIGHT + 16} y1={drawing.level} y2={drawing.level} stroke="var(--ink)" strokeWidth="3" />
            <text x={RIGHT + 22} y={drawing.level + 6} className="text-[22px] font-bold" fill="var(--ink)">
              {figure(drawing.mass, 0)}
            </text>
          </g>
        ) : null}
      </svg>
      <figcaption className="mt-2 text-center text-[18px] text-soft">
        {vessel}
        {room ? ` · ${room}` : ""}
        {children}
      </figcaption>
    </figure>
  );
}
