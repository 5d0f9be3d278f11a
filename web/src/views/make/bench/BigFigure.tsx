import { figure } from "../../../parts/numbers";
import type { AtHand } from "./atHand";
import { Countdown } from "./Countdown";

interface BigFigureProps {
  hand: Pick<AtHand, "planned" | "tolerance" | "waits" | "begun" | "step" | "last" | "volume">;
  /** What stands on the scale. */
  live: number | null;
  zone: string;
}

/** The one large figure of the bench: grams to go, a countdown, or the litres expected. */
export function BigFigure({ hand, live, zone }: BigFigureProps) {
  const { planned, tolerance, waits, begun, last, volume } = hand;
  const minutes = hand.step?.minutes ?? null;
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
