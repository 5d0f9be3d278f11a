import { Slider } from "radix-ui";
import { memo } from "react";
import type { SpecFile } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { figure } from "../../../parts/numbers";
import { type Knob, valueNow } from "./knobs";

interface WhatIfProps {
  body: SpecFile;
  knobs: readonly Knob[];
  turned: Readonly<Record<string, number>>;
  onTurn: (turned: Record<string, number>) => void;
  onKeep: () => void;
}

/** Sliders that try a figure: river, plate, keeping and cost move together; the draft stays until it is kept. */
export const WhatIf = memo(function WhatIf({ body, knobs, turned, onTurn, onKeep }: WhatIfProps) {
  if (knobs.length === 0) return null;
  const moved = Object.keys(turned).length > 0;
  return (
    <section className="tray p-4" aria-label="What if">
      <div className="mb-1 flex items-center justify-between gap-2">
        <h2 className="text-[20px]">What if</h2>
        {moved ? (
          <span className="flex gap-1">
            <Button look="quiet" onClick={() => onTurn({})}>
              Let go
            </Button>
            <Button onClick={onKeep}>Keep</Button>
          </span>
        ) : (
          <span className="text-[14px] text-soft">try it, nothing is kept</span>
        )}
      </div>
      <ul>
        {knobs.map((knob) => {
          const now = turned[knob.key] ?? valueNow(body, knob);
          return (
            <li key={knob.key} className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3">
              <span className="truncate text-[15px]">{knob.label}</span>
              <span className="figures text-right text-[15px] font-bold">
                {figure(now)} <span className="text-[14px] font-normal text-soft">{knob.unit}</span>
              </span>
              <Slider.Root
                className="relative col-span-2 flex h-11 touch-none items-center"
                min={knob.low}
                max={knob.high}
                step={knob.stride}
                value={[now]}
                onValueChange={([next = now]) => onTurn({ ...turned, [knob.key]: next })}
              >
                <Slider.Track className="relative h-1.5 grow rounded-full bg-line">
                  <Slider.Range className="absolute h-full rounded-full bg-rim" />
                </Slider.Track>
                <Slider.Thumb aria-label={knob.label} className="block size-7 rounded-full border-2 border-rim bg-enamel" />
              </Slider.Root>
            </li>
          );
        })}
      </ul>
    </section>
  );
});
