import type { Schemas } from "../../../api/client";
import { GAP } from "../../../parts/numbers";

/** What tasters thought who knew what they drank, score by score, and what that does not show. */
export function ScoredAs({ result }: { result: Schemas["OpenResult"] }) {
  return (
    <div className="text-[15px]">
      <p>
        <b>Scored openly:</b> {result.headline}
      </p>
      <ul>
        {result.scores.map((score) => (
          <li key={`${score.taster}-${score.at}-${score.score}`}>
            <b className="figures">
              {score.score}
              {GAP}/{GAP}10
            </b>{" "}
            {score.taster}
            {score.reference ? <span className="text-soft"> against {score.reference}</span> : null}
            {score.note ? <span>: {score.note}</span> : null}
          </li>
        ))}
      </ul>
      <p className="text-[14px] text-soft">{result.about}</p>
    </div>
  );
}
