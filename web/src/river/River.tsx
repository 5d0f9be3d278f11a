import { memo, useId, useLayoutEffect, useMemo, useRef, useState } from "react";
import { figure, GAP } from "../parts/numbers";
import { drawRiver, type RiverStep, type RowBox } from "./layout";

export interface RiverProps {
  steps: readonly RiverStep[];
  rows: readonly RowBox[];
  names: Readonly<Record<string, string>>;
  /** Said to whoever cannot see it. */
  title: string;
}

/** What is in the vessel at every step: one ribbon beside the steps, its width the mass, its bands what it is made of. */
export const River = memo(function River({ steps, rows, names, title }: RiverProps) {
  const box = useRef<HTMLDivElement>(null);
  const hatch = useId();
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const seen = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width ?? 0));
    seen.observe(element);
    return () => seen.disconnect();
  }, []);
  const last = rows.at(-1);
  const height = last ? last.top + last.height : 0;
  const drawing = useMemo(() => (width > 40 ? drawRiver(steps, rows, width) : null), [steps, rows, width]);
  return (
    <div ref={box} className="pointer-events-none absolute inset-0">
      {drawing ? (
        <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} className="moves block" role="img" aria-label={title}>
          <defs>
            <pattern id={hatch} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width="7" height="7" fill="var(--enamel)" />
              <rect width="3" height="7" fill="var(--soft)" />
            </pattern>
          </defs>
          <path d={drawing.edge} fill="var(--water)" opacity="0.35" />
          {drawing.streams.map((stream) => (
            <path key={stream.key} d={stream.path} data-band={stream.band} opacity="0.92" stroke="var(--outline)" strokeWidth="0.75" />
          ))}
          {drawing.losses.map((loss) => (
            <path key={loss.key} d={loss.path} fill={loss.kept ? "var(--solids)" : `url(#${hatch})`} stroke="var(--soft)" strokeWidth="1" />
          ))}
          {drawing.ribbons.map((ribbon) => (
            <path key={ribbon.key} d={ribbon.path} data-band={ribbon.band} stroke="var(--outline)" strokeWidth="0.75" />
          ))}
          {drawing.heads.map((head) => (
            <text
              key={head.key}
              x={head.x}
              y={head.y}
              textAnchor="end"
              className="text-[14px]"
              fill="var(--soft)"
              stroke="var(--enamel)"
              strokeWidth="3.5"
              strokeLinejoin="round"
              paintOrder="stroke"
            >
              {head.name}
            </text>
          ))}
          {drawing.streams.map((stream) => (
            <text
              key={stream.key}
              x={stream.labelX}
              y={stream.labelY}
              className="text-[14px] font-semibold"
              fill="var(--ink)"
              stroke="var(--enamel)"
              strokeWidth="3.5"
              strokeLinejoin="round"
              paintOrder="stroke"
            >
              {(names[stream.key] ?? "").toLowerCase()}
              {GAP} {figure(stream.mass)}
            </text>
          ))}
        </svg>
      ) : null}
    </div>
  );
});
