import { useState } from "react";
import { TASTING } from "../../../api/rules";
import { Button } from "../../../parts/Button";
import { AddSample } from "./AddSample";
import { Block } from "./Block";
import type { ChosenSample } from "./plan";

interface SamplesFieldProps {
  samples: readonly ChosenSample[];
  onChange: (samples: ChosenSample[]) => void;
  fault: string | undefined;
}

/** What is tasted. The first is the control, or what the house makes now. */
export function SamplesField({ samples, onChange, fault }: SamplesFieldProps) {
  const [adding, setAdding] = useState(false);
  return (
    <Block title="What is tasted">
      {samples.length ? (
        <ol className="grid gap-2">
          {samples.map((sample, n) => (
            <li key={sample.name} className="flex items-center justify-between gap-3 rounded-xl bg-quiet px-3 py-1.5">
              <span>
                <b>{sample.name}</b>
                <span className="block text-[15px] text-soft">
                  {n === 0 ? "what it is tasted against" : "tasted against it"}
                  {sample.about ? ` · ${sample.about}` : ""}
                </span>
              </span>
              <Button
                look="quiet"
                aria-label={`Take ${sample.name} out`}
                onClick={() => onChange(samples.filter((_, place) => place !== n))}
              >
                Take out
              </Button>
            </li>
          ))}
        </ol>
      ) : (
        <p className="text-[15px] text-soft">
          First what the house makes now, then what it is tasted against: a bottle, a trial, a draft, or one from elsewhere.
        </p>
      )}
      {fault ? (
        <p role="alert" className="text-[14px] font-semibold text-warn">
          {fault}
        </p>
      ) : null}
      {samples.length < TASTING.most_samples ? (
        <div>
          <Button onClick={() => setAdding(true)}>{samples.length ? "Add another" : "Add the first"}</Button>
        </div>
      ) : null}
      <AddSample
        open={adding}
        onClose={() => setAdding(false)}
        onAdd={(sample) => {
          onChange([...samples, sample]);
          setAdding(false);
        }}
      />
    </Block>
  );
}
