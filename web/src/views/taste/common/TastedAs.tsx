import { Link } from "react-router";

interface TastedAsProps {
  panel: { id: string; code: string; headline: string; decision: string };
}

/** What a panel said of something, in one line that leads to it. */
export function TastedAs({ panel }: TastedAsProps) {
  return (
    <p className="text-[15px]">
      <Link to={`/taste/${panel.id}`} className="inline-flex min-h-11 items-center font-semibold text-rim hover:underline">
        Tasted blind, {panel.code}
      </Link>
      : {panel.headline} {panel.decision ? <span className="text-soft">Decided: {panel.decision}.</span> : null}
    </p>
  );
}
