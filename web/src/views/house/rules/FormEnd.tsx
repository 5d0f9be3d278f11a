import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";

interface FormEndProps {
  /** What cannot be read, in words. */
  fault?: string;
  keep: { error: unknown; isPending: boolean };
  onBack: () => void;
}

/** The end of a form about a rule: what is wrong, and whether it is kept or left. */
export function FormEnd({ fault, keep, onBack }: FormEndProps) {
  return (
    <>
      {fault ? (
        <p role="alert" className="font-semibold text-warn">
          {fault}
        </p>
      ) : null}
      <Trouble error={keep.error} />
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={keep.isPending}>
          Keep it
        </Button>
        <Button onClick={onBack}>Back</Button>
      </div>
    </>
  );
}
