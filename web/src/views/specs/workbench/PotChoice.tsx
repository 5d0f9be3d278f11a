import type { SpecFile, SpecStep } from "../../../api/client";
import { Choice } from "../../../parts/Choice";
import { useRegister } from "../../../parts/useRegister";
import { changeStep, type Verb } from "./body";

interface PotChoiceProps {
  verb: Verb;
  step: SpecStep;
  edit: (change: (body: SpecFile) => SpecFile) => void;
}

/** The house's own pots, where a step asks how wide the pot is or what its ring puts into steam. */
export function PotChoice({ verb, step, edit }: PotChoiceProps) {
  const asks = (name: string) => verb.params.some((param) => param.name === name);
  // The power of a simmer is far below that of a full ring, so only the width is taken for it.
  const wide = asks("pot_cm");
  const pots = useRegister("pot").filter((pot) => wide || pot.figures.power_w !== undefined);
  if (!pots.length || !(wide || asks("power_w"))) return null;
  const given = (pot: (typeof pots)[number]) => (wide ? { pot_cm: pot.figures.pot_cm } : { power_w: pot.figures.power_w });
  const now = pots.find((pot) => Object.entries(given(pot)).every(([name, value]) => Number(step[name as keyof SpecStep]) === value));
  return (
    <Choice
      label="Which pot"
      value={now?.id ?? "none"}
      options={[...(now ? [] : [{ value: "none", label: "which pot?" }]), ...pots.map((pot) => ({ value: pot.id, label: pot.name }))]}
      onChange={(id) => {
        const pot = pots.find((one) => one.id === id);
        if (pot) edit(changeStep(step.id, given(pot) as Partial<SpecStep>));
      }}
    />
  );
}
