import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import { SCORE } from "../../../api/rules";
import { figure } from "../../../parts/numbers";
import { fromLine, onLine, stepped } from "./liking";

interface LikingLineProps {
  value: number | null;
  onChange: (value: number) => void;
}

/** A line between “not at all” and “very much”. There is no mark on it until it is touched. */
export function LikingLine({ value, onChange }: LikingLineProps) {
  const line = useRef<HTMLDivElement>(null);
  const touch = (event: PointerEvent<HTMLDivElement>) => {
    const box = line.current?.getBoundingClientRect();
    if (!box || (event.type === "pointermove" && !event.currentTarget.hasPointerCapture(event.pointerId))) return;
    if (event.type === "pointerdown") event.currentTarget.setPointerCapture(event.pointerId);
    onChange(fromLine((event.clientX - box.left) / box.width));
  };
  const key = (event: KeyboardEvent) => {
    const moved = stepped(value, event.key);
    if (moved === null) return;
    event.preventDefault();
    onChange(moved);
  };
  return (
    <div className="pt-10 pb-2">
      <div
        ref={line}
        role="slider"
        tabIndex={0}
        aria-label="How much you like it"
        aria-valuemin={SCORE.least}
        aria-valuemax={SCORE.most}
        aria-valuenow={value ?? SCORE.least}
        aria-valuetext={value === null ? "not marked yet" : figure(value, 1)}
        className="relative h-16 touch-none select-none"
        onPointerDown={touch}
        onPointerMove={touch}
        onKeyDown={key}
      >
        <svg viewBox="0 0 300 64" preserveAspectRatio="none" className="absolute inset-0 size-full" aria-hidden="true">
          <path d="M1 18V46M299 18V46M1 32H299" stroke="var(--rim)" strokeWidth="3" fill="none" vectorEffect="non-scaling-stroke" />
        </svg>
        {value === null ? null : (
          <svg viewBox="0 0 300 64" className="absolute inset-0 size-full overflow-visible" preserveAspectRatio="none" aria-hidden="true">
            <path
              d={`M${300 * onLine(value)} 8V56`}
              stroke="var(--warn)"
              strokeWidth="7"
              strokeLinecap="round"
              vectorEffect="non-scaling-stroke"
            />
          </svg>
        )}
      </div>
      <div className="flex justify-between text-[16px] text-soft">
        <span>not at all</span>
        <span>very much</span>
      </div>
      <p className="figures h-8 pt-1 text-center text-[20px] font-bold" aria-hidden="true">
        {value === null ? "" : figure(value, 1)}
      </p>
    </div>
  );
}
