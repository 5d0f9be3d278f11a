import { useEffect, useState } from "react";
import { GAP } from "../../../parts/numbers";
import { clock } from "../../../parts/say";

export interface CountdownProps {
  begun: string;
  minutes: number;
  zone: string;
}

/** Time left of a wait, in the size of a weight; it turns to "over" instead of stopping. */
export function Countdown({ begun, minutes, zone }: CountdownProps) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  const until = Date.parse(begun) + minutes * 60_000;
  const left = Math.abs(until - now) / 1000;
  const over = now >= until;
  const two = (value: number) => String(Math.floor(value)).padStart(2, "0");
  const shown = left >= 3600 ? `${Math.floor(left / 3600)}:${two((left % 3600) / 60)}` : `${Math.floor(left / 60)}:${two(left % 60)}`;
  return (
    <div className="flex flex-wrap items-end gap-x-6">
      <span
        role="timer"
        className={`font-head text-[clamp(72px,16vw,150px)] leading-[0.9] font-extrabold tabular-nums ${over ? "text-warn" : ""}`}
      >
        {shown}
      </span>
      <span className="pb-2 text-[26px] leading-tight text-soft">
        {left >= 3600 ? "hours" : "minutes"}
        <br />
        {over ? "over its time" : `to go, until${GAP} ${clock(new Date(until), zone)}`}
      </span>
    </div>
  );
}
