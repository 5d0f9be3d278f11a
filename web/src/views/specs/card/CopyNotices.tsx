import { Link } from "react-router";
import { Notice } from "../../../parts/Notice";
import { type Card, copyState } from "./asked";

/** Whether this is what holds now: withdrawn, with what takes its place; or an older copy than the newest. */
export function CopyNotices({ made, carried, spec }: { made: Card; carried: number | null; spec: string }) {
  const state = copyState(made, carried);
  return (
    <div className="mb-3 grid gap-2">
      {state.withdrawn ? (
        <Notice severity="stop">
          {made.labels.withdrawn} {made.withdrawn}{" "}
          {state.successor ? (
            <Link to={`/specs/${spec}/card?number=${state.successor}`} className="font-bold underline">
              Version {state.successor} takes its place
            </Link>
          ) : null}
        </Notice>
      ) : null}
      {state.outdated ? (
        <Notice severity="check">
          The copy in your hand is version {carried}. This is version {made.number}: {made.why}.
        </Notice>
      ) : null}
      {state.newer ? (
        <Notice severity="check">
          <Link to={`/specs/${spec}/card`} className="font-bold underline">
            Version {state.newer}
          </Link>{" "}
          is newer.
        </Notice>
      ) : null}
    </div>
  );
}
