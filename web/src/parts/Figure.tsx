import type { ReactNode } from "react";
import type { Figure as FigureData } from "../api/client";
import { FIGURES, type FigureKey } from "../api/figures";
import { figure, GAP, places } from "./numbers";

export interface FigureProps {
  name: FigureKey;
  data: FigureData;
  /** Read with an instrument: no range, a solid line. Worked out: its range, a dotted line. */
  read?: boolean;
  size?: "row" | "big";
  onWorking?: () => void;
  label?: string;
  /** Another word for the unit where the heading says it already, or the column is narrow. */
  unitWord?: string;
}

const half = (data: FigureData) => (data.high - data.low) / 2;

/** A number with its unit, told apart by whether it was worked out or read; tap it for its working. */
export function Figure({ name, data, read = false, size = "row", onWorking, label, unitWord }: FigureProps) {
  const { name: long, unit } = FIGURES[name];
  const decimals = places(data.value, FIGURES[name].decimals);
  const shown = figure(data.value, decimals);
  const around = half(data);
  const visible = !read && around >= 0.5 * 10 ** -decimals;
  const line = read ? "was-read" : "worked";
  const digits = size === "big" ? `font-head text-[25px] leading-none font-bold ${line}` : `figures text-[15px] font-bold ${line}`;
  const body: ReactNode = (
    <>
      <span className={digits}>{shown}</span>
      <span className={size === "big" ? "ml-1.5 text-[14px] text-soft" : "ml-1 text-[14px] text-soft"}>
        {unitWord ?? unit}
        {visible ? (
          <span className="figures spread ml-1 whitespace-nowrap">
            ±{GAP}
            {figure(around, decimals)}
          </span>
        ) : null}
      </span>
    </>
  );
  if (!onWorking) return <span className="whitespace-nowrap">{body}</span>;
  return (
    <button
      type="button"
      onClick={(event) => {
        event.stopPropagation();
        onWorking();
      }}
      className="-mx-1 min-h-11 rounded-lg px-1 text-left hover:bg-pick md:min-h-0"
      aria-label={`${label ?? long}: ${shown} ${unit}. Show the working`}
    >
      {body}
    </button>
  );
}
