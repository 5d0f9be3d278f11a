import { useLayoutEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { CHART, chartHeight, driftChart, percentMark } from "./standards";

interface DriftChartProps {
  drift: Schemas["Drift"];
  panels: readonly Schemas["BesidePanel"][];
}

const DIAMOND = 7;

/** How far each batch lies from the standard, by its date: sugar and acid in percent, the band that few would notice, and below what panels showed. */
export function DriftChart({ drift, panels }: DriftChartProps) {
  const box = useRef<HTMLElement>(null);
  const [wide, setWide] = useState(0);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const seen = new ResizeObserver(([entry]) => setWide(entry?.contentRect.width ?? 0));
    seen.observe(element);
    return () => seen.disconnect();
  }, []);
  return (
    <figure ref={box} className="grid gap-2 [&>*]:min-w-0">
      {wide ? <Drawing drift={drift} panels={panels} wide={wide} /> : null}
      <figcaption className={`text-[15px] text-soft ${drift.points.length ? "" : "hidden"}`}>
        ● sugar · ◇ acid, in percent of the standard · the band: what few would notice
        {panels.length ? " · □ tasted, no difference shown · ■ tasted, a difference shown" : ""}
      </figcaption>
      {panels.length ? (
        <ul>
          {panels.map((panel) => (
            <li key={panel.panel} className="border-t border-line">
              <Link to={`/taste/${panel.panel}`} className="flex min-h-11 flex-wrap items-center gap-x-3 hover:bg-pick">
                <b className="figures">{panel.code}</b>
                <span className={panel.is_shown ? "text-warn" : ""}>{panel.headline}</span>
              </Link>
            </li>
          ))}
        </ul>
      ) : null}
    </figure>
  );
}

function Drawing({ drift, panels, wide }: DriftChartProps & { wide: number }) {
  const chart = driftChart(drift, panels, wide);
  if (!chart) return null;
  const [edge, height] = [wide - CHART.right, chartHeight(panels)];
  return (
    <svg width={wide} height={height} viewBox={`0 0 ${wide} ${height}`} role="img" aria-label={drift.words}>
      <rect x={CHART.left} y={chart.band.top} width={edge - CHART.left} height={chart.band.bottom - chart.band.top} fill="var(--quiet)" />
      <path d={`M${CHART.left} ${chart.zero}H${edge}`} stroke="var(--line)" strokeWidth="2" />
      <path d={`M${CHART.left} ${CHART.top}V${CHART.lane - 16}`} stroke="var(--rim)" strokeWidth="2" />
      {chart.marks.map((mark) => (
        <text key={mark.value} x={CHART.left - 8} y={mark.y + 5} textAnchor="end" fontSize="15" fill="var(--soft)">
          {percentMark(mark.value)}
        </text>
      ))}
      {chart.days.map((item, n) => (
        <text key={item.label} x={item.x} y={CHART.lane + 6} textAnchor={n ? "end" : "start"} fontSize="15" fill="var(--soft)">
          {item.label}
        </text>
      ))}
      {chart.versions.map((item) => (
        <g key={item.label}>
          <path d={`M${item.x} ${CHART.top - 4}V${CHART.lane - 16}`} stroke="var(--line)" strokeWidth="1.3" strokeDasharray="3 5" />
          <text x={item.x} y={CHART.top - 12} textAnchor="middle" fontSize="15" fill="var(--soft)">
            {item.label}
          </text>
        </g>
      ))}
      {chart.sugar.map((mark) => (
        <circle key={mark.key} cx={mark.x} cy={mark.y} r="6" fill="var(--rim)">
          <title>{mark.says}</title>
        </circle>
      ))}
      {chart.acid.map((mark) => (
        <path
          key={mark.key}
          d={`M${mark.x} ${mark.y - DIAMOND}l${DIAMOND} ${DIAMOND}l${-DIAMOND} ${DIAMOND}l${-DIAMOND} ${-DIAMOND}z`}
          fill="var(--enamel)"
          stroke="var(--rim)"
          strokeWidth="2"
        >
          <title>{mark.says}</title>
        </path>
      ))}
      {chart.panels.map((mark) => (
        <rect
          key={mark.key}
          x={mark.x - 7}
          y={mark.y + 12}
          width="14"
          height="14"
          fill={mark.isShown ? "var(--warn)" : "none"}
          stroke={mark.isShown ? "var(--warn)" : "var(--rim)"}
          strokeWidth="2"
        >
          <title>{mark.says}</title>
        </rect>
      ))}
    </svg>
  );
}
