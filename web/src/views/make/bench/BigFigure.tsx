import { figure } from "../../../parts/numbers";
import { Countdown } from "./Countdown";

interface BigFigureProps {
  planned: number | null;
  tolerance: number;
  live: number | null;
  waits: boolean;
  begun: string | null;
  minutes: number | null;
  zone: string;
  last: boolean;
  volume: number;
}

/** The one large figure of the bench: grams to go, a countdown, or the litres expected. */
export function BigFigure({ planned, tolerance, live, waits, begun, minutes, zone, last, volume }: BigFigureProps) {
  const big = "font-head text-[clamp(72px,16vw,150px)] leading-[0.9] font-extrabold";
  if (planned !== null) {
    const left = planned - (live ?? 0);
    const over = left < -tolerance;
    return (
      <div className="flex items-end gap-6">
        <span className={`${big} ${over ? "text-warn" : ""}`}>{figure(Math.abs(left))}</span>
        <span className={`pb-2 text-[26px] leading-tight ${over ? "font-bold text-warn" : "text-soft"}`}>
          grams
          <br />
          {over ? "over" : "to go"}
        </span>
      </div>
    );
  }
  if (waits && begun && minutes !== null) return <Countdown begun={begun} minutes={minutes} zone={zone} />;
  if (last && volume > 0) {
    return (
      <div className="flex items-end gap-6">
        <span className={big}>{figure(volume / 1000, 2)}</span>
        <span className="pb-2 text-[26px] leading-tight text-soft">
          litres
          <br />
          expected
        </span>
      </div>
    );
  }
  return <span />;
}
