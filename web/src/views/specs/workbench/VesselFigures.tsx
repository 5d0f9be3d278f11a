import { memo } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { FIGURES, type FigureKey } from "../../../api/figures";
import { Figure } from "../../../parts/Figure";
import { figure, GAP } from "../../../parts/numbers";

type Step = Schemas["StepResult"];
const SHOWN: readonly { name: FigureKey & keyof Step; label: string; unitWord?: string }[] = [
  { name: "brix", label: "Dissolved solids" },
  { name: "acid_g_100ml", label: "Titratable acid", unitWord: "acid" },
];

interface VesselFiguresProps {
  step: Step;
  readBrix: boolean;
  onWorking: (step: string, name: string) => void;
}

/** What the vessel holds after a step: °Bx, acid, mass, and what left it. */
export const VesselFigures = memo(function VesselFigures({ step, readBrix, onWorking }: VesselFiguresProps) {
  const abv = step.abv && step.abv.value > FIGURES.abv.shownFrom ? step.abv : null;
  return (
    <div className="grid justify-items-end gap-0.5 px-3 py-2.5 text-right">
      {SHOWN.map(({ name, label, unitWord }) => {
        const data = step[name] as Schemas["Range"] | null | undefined;
        if (!data) return null;
        const exact = { value: data.value, low: data.value, high: data.value };
        return (
          <Figure
            key={name}
            name={name}
            data={exact}
            label={label}
            {...(unitWord ? { unitWord } : {})}
            read={readBrix && name === "brix"}
            onWorking={() => onWorking(step.id, name)}
          />
        );
      })}
      {abv ? (
        <Figure
          name="abv"
          data={{ value: abv.value, low: abv.value, high: abv.value }}
          label="Alcohol"
          onWorking={() => onWorking(step.id, "abv")}
        />
      ) : null}
      <span className="figures text-[14px] text-soft">
        {figure(step.mass_g.value, 0)}
        {GAP}g
      </span>
      {step.leaving.map((stream) => (
        <span key={stream.name} className="text-[14px] text-soft">
          {stream.kept ? (
            <Link
              to={`/specs?find=${encodeURIComponent(stream.name)}`}
              title="What takes it"
              className="font-semibold text-ink underline decoration-dotted"
            >
              → {stream.name}
            </Link>
          ) : (
            stream.name
          )}{" "}
          <b className="figures text-ink">{figure(stream.mass_g)}</b>
          {GAP}g
        </span>
      ))}
    </div>
  );
});
