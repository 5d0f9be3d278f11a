import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { rowsOf } from "../../api/lists";
import { ask } from "../../api/queries";
import { More } from "../../parts/More";
import { NotFetched } from "../../parts/Notice";
import { day } from "../../parts/say";

/** What was scored by people who knew what they drank: apart from what panels showed. */
export function Openly({ find, zone }: { find: string; zone: string }) {
  const scored = useInfiniteQuery(ask.scoredOpenly(find));
  const rows = rowsOf(scored.data);
  if (!rows.length && !scored.isError) return null;
  return (
    <section className="tray mt-3.5 p-4 md:p-5" aria-label="Scored openly">
      <h2 className="text-[20px]">Scored openly</h2>
      <p className="mb-1 text-[15px] text-soft">{rows[0]?.result.about}</p>
      <ul>
        {rows.map(({ spec, name, version, result }) => (
          <li key={`${spec} ${version}`} className="border-t border-line">
            <Link
              to={`/specs/${spec}/versions`}
              className="grid gap-x-6 gap-y-1 py-3 hover:bg-pick md:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]"
            >
              <span>
                <b className="text-[17px]">
                  {name}, version {version}
                </b>
                <span className="block text-[15px] text-soft">{result.scores[0] ? day(result.scores[0].at, zone) : ""}</span>
              </span>
              <span>
                <span className="font-semibold">{result.headline}</span>
                <span className="block text-[15px] text-soft">
                  {result.scores.map(({ taster, score, note }) => `${taster} ${score}${note ? `: ${note}` : ""}`).join(" · ")}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      <More list={scored} />
      <NotFetched questions={[scored]} />
    </section>
  );
}
