import type { SpecFile, SpecStep } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { MaterialPicker } from "../../../parts/MaterialPicker";
import { addAlternative, addLine, joinNext, mayJoin, moveStep, removeStep, splitStep, steps } from "./body";

export interface StepMovesProps {
  step: SpecStep;
  body: SpecFile;
  title: string;
  takesLines: boolean;
  edit: (change: (body: SpecFile) => SpecFile) => void;
}

/** What may be done with the selected step as a whole: put something in, move, split, join, another way, remove. */
export function StepMoves({ step, body, title, takesLines, edit }: StepMovesProps) {
  const next = steps(body)[steps(body).findIndex((item) => item.id === step.id) + 1];
  return (
    <div className="flex flex-wrap items-center gap-2">
      {takesLines ? <MaterialPicker label="Put something in" onPick={(key) => edit(addLine(step.id, key))} /> : null}
      <span className="flex-1" />
      <Button look="quiet" onClick={() => edit(moveStep(step.id, -1))} aria-label="Move this step up">
        ↑ earlier
      </Button>
      <Button look="quiet" onClick={() => edit(moveStep(step.id, 1))} aria-label="Move this step down">
        ↓ later
      </Button>
      {(step.lines?.length ?? 0) > 1 ? (
        <Button look="quiet" onClick={() => edit(splitStep(step.id))}>
          Split
        </Button>
      ) : null}
      {mayJoin(step, next) ? (
        <Button look="quiet" onClick={() => edit(joinNext(step.id))}>
          Join the next
        </Button>
      ) : null}
      {step.only ? null : (
        <Button look="quiet" onClick={() => edit(addAlternative(step.id, title))}>
          Another way
        </Button>
      )}
      <Button look="quiet" onClick={() => edit(removeStep(step.id))}>
        Remove step
      </Button>
    </div>
  );
}
