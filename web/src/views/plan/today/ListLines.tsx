import { Link } from "react-router";
import { Button } from "../../../parts/Button";
import { isForTheCard } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { clock } from "../../../parts/say";
import { bottles, hands, type Line, startWords, type Today, volume } from "./lines";
import { useList } from "./useList";

export interface ListLinesProps {
  today: Today;
  lines: readonly Line[];
  zone: string;
  /** May begin batches. */
  may: boolean;
  picked?: string | undefined;
  onPick?: (key: string) => void;
}

/** The list in order: what, how much, by when, by whom, and one press that begins it. */
export function ListLines({ today, lines, zone, may, picked, onPick }: ListLinesProps) {
  const { begin } = useList();
  const failed = isForTheCard(begin.error) ? begin.variables?.spec : undefined;
  return (
    <>
      <ol>
        {lines.map((line) => (
          <li
            key={`${line.key} ${line.start_by}`}
            className={`border-t border-line first:border-t-0 ${picked === line.key ? "-mx-2 rounded-lg bg-pick px-2" : ""}`}
          >
            <div className="grid min-h-16 grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 gap-y-1 py-2 sm:grid-cols-[minmax(0,1fr)_100px_84px_auto]">
              <What line={line} {...(onPick ? { onPick } : {})} />
              <p className="col-start-1 row-start-2 text-[15px] sm:col-auto sm:row-auto">
                <b>{bottles(line.bottles)}</b> <span className="text-soft sm:block">{volume(line.makes_ml)}</span>
              </p>
              <p className="col-start-1 row-start-3 text-[15px] text-soft sm:col-auto sm:row-auto">
                start by{" "}
                <b className={`figures text-[16px] sm:block ${line.is_late ? "text-warn" : "text-ink"}`}>
                  {startWords(line.start_by, today.list.day, zone)}
                </b>
              </p>
              <div className="col-start-2 row-span-3 row-start-1 text-right sm:col-auto sm:row-auto">
                {may ? (
                  <Button
                    className="min-w-20"
                    disabled={begin.isPending}
                    aria-label={`Start ${line.name}, ${bottles(line.bottles)}`}
                    onClick={() => begin.mutate({ line, spec: today.preps[line.key]?.spec ?? "", id: crypto.randomUUID() })}
                  >
                    Start
                  </Button>
                ) : null}
                <span className="block text-[15px] text-soft">{hands(line)[0] ?? ""}</span>
              </div>
            </div>
          </li>
        ))}
      </ol>
      {begin.error ? (
        <div className="mt-2 flex flex-wrap items-center gap-3">
          <Trouble error={begin.error} />
          {failed ? (
            <Link
              to={`/specs/${failed}/card`}
              className="inline-flex min-h-11 items-center rounded-full border border-rim px-4 font-semibold text-rim"
            >
              Its card
            </Link>
          ) : null}
        </div>
      ) : null}
    </>
  );
}

/** The name of a line, and what stands there of it; it opens the reasons where those are shown. */
function What({ line, onPick }: { line: Line; onPick?: (key: string) => void }) {
  const words = (
    <>
      <span className="block text-[17px] font-bold">{line.name}</span>
      <span className="block text-[14px] text-soft">
        {line.there_ml >= 1 ? `${volume(line.there_ml)} there` : "none there"} · needed {line.needed}
        {line.is_late ? <b className="text-warn"> · misses it</b> : null}
        {line.is_extra ? " · put on the list" : null}
        {line.is_cleared ? null : " · not cleared for it"}
      </span>
    </>
  );
  if (!onPick) return <div>{words}</div>;
  return (
    <button
      type="button"
      className="min-h-11 rounded-lg text-left hover:underline"
      aria-label={`Why ${line.name}`}
      onClick={() => onPick(line.key)}
    >
      {words}
    </button>
  );
}

/** What was begun today already: made, or under way. */
export function BegunLines({ today, zone }: { today: Today; zone: string }) {
  return (
    <ul>
      {today.begun.map((batch) => (
        <li key={batch.run} className="border-t border-line first:border-t-0">
          <Link
            to={`/make/${batch.run}`}
            className="-mx-2 grid min-h-12 grid-cols-[20px_minmax(0,1fr)_auto] items-center gap-3 rounded-lg px-2 py-1.5 hover:bg-pick"
          >
            <svg viewBox="0 0 20 20" className="size-5" aria-hidden="true">
              <circle
                cx="10"
                cy="10"
                r="8"
                fill={batch.finished_at ? "var(--good)" : "none"}
                stroke={batch.finished_at ? "var(--good)" : "var(--rim)"}
                strokeWidth="2.5"
              />
              {batch.finished_at ? null : <path d="M10 2a8 8 0 0 1 0 16z" fill="var(--rim)" />}
            </svg>
            <span>
              <span className="font-semibold">{batch.name}</span>
              <span className="block text-[14px] text-soft">
                {batch.code} · {volume(batch.makes_ml)} · {batch.by}, {clock(batch.started_at, zone)}
              </span>
            </span>
            <b className="text-[15px]">{batch.finished_at ? "made" : "under way"}</b>
          </Link>
        </li>
      ))}
    </ul>
  );
}
