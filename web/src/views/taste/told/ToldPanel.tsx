import type { Schemas } from "../../../api/client";
import { moment } from "../../../parts/say";
import { canLead, useSession } from "../../../session/session";
import { Decision } from "./Decision";
import { Figures } from "./Figures";
import { HowLongGood } from "./HowLongGood";
import { Key } from "./Key";
import { NextTrial } from "./NextTrial";
import { Plates } from "./Plates";
import { RightAnswers } from "./RightAnswers";
import { Standings } from "./Standings";

/** What a panel said: in words, then as dots, then in figures with their working; and what was decided. */
export function ToldPanel({ panel }: { panel: Schemas["PanelOut"] }) {
  const session = useSession();
  const { verdict, results } = panel;
  if (!verdict || !results) return null;
  const seal = panel.unsealed_by ? `seal broken by ${panel.unsealed_by}: ${panel.unsealed_why}` : "seal broken after the last answer";
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
        <h1 className="text-[30px]">{panel.question}</h1>
        <p className={panel.unsealed_by ? "font-semibold text-warn" : "font-semibold text-good"}>
          ◆ {seal}
          {panel.told_at ? <span className="font-normal text-soft"> · {moment(panel.told_at, session.zone)}</span> : null}
        </p>
      </div>
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,7fr)_minmax(384px,4fr)]">
        <div className="grid gap-4 [&>*]:min-w-0">
          <section className="tray grid gap-3 p-4 md:p-5" aria-label="Verdict">
            <h2 className="max-w-[26ch] text-[28px] md:text-[34px]">{verdict.headline}</h2>
            <div className="grid gap-1.5 text-[17px]">
              {verdict.sentences.map((sentence) => (
                <p key={sentence}>{sentence}</p>
              ))}
            </div>
            {verdict.caution ? <p className="font-semibold text-warn">{verdict.caution}</p> : null}
            <p className="text-[15px] text-soft">
              Said before anybody tasted: {panel.line} {panel.late ? `${panel.late} came after the seal was broken and do not count.` : ""}
            </p>
            <Decision panel={panel} may={canLead(session)} />
          </section>
          {panel.aim === "difference" ? <RightAnswers panel={panel} results={results} /> : <Standings panel={panel} results={results} />}
        </div>
        <div className="grid gap-4 [&>*]:min-w-0">
          <HowLongGood panel={panel} may={canLead(session)} />
          <Plates panel={panel} results={results} />
          <NextTrial panel={panel} results={results} may={canLead(session)} />
          <Figures verdict={verdict} />
          <Key panel={panel} results={results} />
        </div>
      </div>
    </main>
  );
}
