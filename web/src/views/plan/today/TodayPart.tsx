import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { ask } from "../../../api/queries";
import { DayStrip } from "../../../clock-strip/DayStrip";
import { Button } from "../../../parts/Button";
import { useKeys } from "../../../parts/keys";
import { Empty, NotFetched, Shape } from "../../../parts/Notice";
import { clock, weekday } from "../../../parts/say";
import { canLead, canMake, useSession } from "../../../session/session";
import { OnItsWay } from "../orders/OnItsWay";
import { ToOrder } from "../orders/ToOrder";
import { HandOut } from "./HandOut";
import { Ill } from "./Ill";
import { LeftOverToday } from "./LeftOverToday";
import { BegunLines, ListLines } from "./ListLines";
import { colourOf, type Line, startWords, type Today } from "./lines";
import { Missed, RunsOut } from "./SidePanels";
import { useList } from "./useList";
import { WhyPart } from "./WhyPart";

/** Today in order: what is made, by when and by whom; what misses its day, what runs out, what is ordered. */
export function TodayPart({ tabs }: { tabs: ReactNode }) {
  const session = useSession();
  const found = useQuery(ask.planToday());
  const [picked, setPicked] = useState<string>();
  const [sheet, setSheet] = useState<"ill" | "out" | null>(null);
  const may = canMake(session);
  useKeys(may ? [{ key: "i", says: "who is not in", does: () => setSheet("ill") }] : []);
  const today = found.data;
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <h1 className="text-[32px]">
            {today ? `${weekday(today.list.now, session.zone)}, ${clock(today.list.now, session.zone)}` : "Plan"}
          </h1>
          {today?.pars ? (
            <p className="text-soft">
              {today.list.said}
              {today.changed ? ` · today: ${today.changed}` : ""}
            </p>
          ) : null}
        </div>
        <div className="flex flex-wrap items-center gap-2">
          {tabs}
          {today?.pars ? (
            <Button look="main" onClick={() => setSheet("out")}>
              Hand out today's list
            </Button>
          ) : null}
        </div>
      </div>
      <NotFetched questions={[found]} />
      {found.isPending ? <Shape rows={6} /> : null}
      {today && !today.pars ? <NoPars may={canLead(session)} /> : null}
      {today?.pars ? <Whole today={today} picked={picked} onPick={setPicked} may={may} onIll={() => setSheet("ill")} /> : null}
      <Ill open={sheet === "ill"} onClose={() => setSheet(null)} day={today?.list.day ?? ""} />
      <HandOut open={sheet === "out"} onClose={() => setSheet(null)} />
    </>
  );
}

const nothingToBegin = (today: Today) =>
  today.list.missed.length
    ? "Nothing can be begun today."
    : today.begun.length
      ? "Nothing more has to be begun today."
      : "Nothing has to be begun today: every par is met by what stands there.";

function NoPars({ may }: { may: boolean }) {
  return (
    <div className="tray p-4 md:p-5">
      <Empty title="Nothing has a par yet">
        Say of each prep how much must stand there when a day opens: from the first day on a list follows, with what to make, in whole
        bottles that fit the pot, and when to begin.{" "}
        {may ? (
          <Link to="/plan/pars" className="inline-flex min-h-11 items-center font-semibold text-rim underline">
            Set the pars
          </Link>
        ) : (
          "A lead sets the pars."
        )}
      </Empty>
    </div>
  );
}

interface WholeProps {
  today: Today;
  picked: string | undefined;
  onPick: (key: string) => void;
  may: boolean;
  onIll: () => void;
}

function Whole({ today, picked, onPick, may, onIll }: WholeProps) {
  const session = useSession();
  const { decide } = useList();
  const all: readonly Line[] = [...today.list.lines, ...today.list.later];
  const why = all.find((line) => line.key === picked) ?? all[0];
  const left = Object.entries(today.preps).filter(([, prep]) => prep.bottles === 0);
  return (
    <>
      <Missed today={today} />
      <div className="grid grid-cols-[minmax(0,1fr)] gap-3.5 lg:grid-cols-[minmax(0,6fr)_minmax(0,7fr)]">
        <section className="tray p-4" aria-label="Today, in order">
          <h2 className="mb-1 text-[20px]">Today, in order</h2>
          {today.list.lines.length === 0 ? <p className="text-soft">{nothingToBegin(today)}</p> : null}
          <ListLines today={today} lines={today.list.lines} zone={session.zone} may={may} picked={why?.key} onPick={onPick} />
          <BegunLines today={today} zone={session.zone} />
          {left.map(([key, prep]) => (
            <p key={key} className="flex min-h-12 items-center justify-between gap-3 border-t border-line text-[15px] text-soft">
              {prep.name}: not today
              {may ? (
                <Button look="quiet" onClick={() => decide.mutate({ spec: prep.spec, wish: null })}>
                  Back on the list
                </Button>
              ) : null}
            </p>
          ))}
          {may ? (
            <div className="mt-3 flex flex-wrap gap-2">
              <Button shortcut="I" onClick={onIll}>
                One of us is ill
              </Button>
              <Link
                to="/plan/pars"
                className="act inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
              >
                A party, or another day
              </Link>
            </div>
          ) : null}
        </section>
        <div className="grid content-start gap-3.5">
          <DayStrip
            rows={all.map((line) => ({
              id: `${line.key} ${line.start_by}`,
              name: line.name,
              colour: colourOf(today.preps[line.key]?.family ?? ""),
              ready: Date.parse(line.ready_at),
              hands: line.hands.map((part) => ({ who: part.name, from: Date.parse(part.from_at), until: Date.parse(part.until_at) })),
            }))}
            people={today.workers.map((one) => ({ name: one.name, away: one.is_away }))}
            now={Date.parse(today.list.now)}
            opens={Date.parse(today.opens_at)}
            zone={session.zone}
          />
          {why ? <WhyPart key={why.key} today={today} line={why} zone={session.zone} may={may} /> : null}
        </div>
      </div>
      <LeftOverToday today={today} may={may} />
      <div className="mt-3.5 grid grid-cols-[minmax(0,1fr)] items-start gap-3.5 lg:grid-cols-3">
        <RunsOut today={today} />
        <div className="grid gap-3.5">
          <ToOrder orders={today.orders} may={may} />
          <OnItsWay may={may} />
        </div>
        <section className="tray p-4" aria-label="On the days after">
          <h2 className="mb-1 text-[20px]">On the days after</h2>
          {today.list.later.length === 0 ? <p className="text-soft">Nothing yet.</p> : null}
          <ul>
            {today.list.later.slice(0, 12).map((line) => (
              <li
                key={`${line.key} ${line.start_by}`}
                className="flex flex-wrap justify-between gap-x-3 border-t border-line py-1.5 text-[15px] first:border-t-0"
              >
                <span className="font-semibold">{line.name}</span>
                <span className="text-soft">{startWords(line.start_by, today.list.day, session.zone)}</span>
              </li>
            ))}
          </ul>
        </section>
      </div>
    </>
  );
}
