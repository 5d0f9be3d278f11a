import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { ClockStrip } from "../../clock-strip/ClockStrip";
import { Button } from "../../parts/Button";
import { daysUntil, dayWord } from "../../parts/days";
import { Empty, Notice, PageNotFetched, Shape } from "../../parts/Notice";
import { figure, GAP } from "../../parts/numbers";
import { clock, moment, span, weekday } from "../../parts/say";
import { AltitudeAsked } from "../../session/Altitude";
import { canMake, useSession } from "../../session/session";
import { Bottle } from "./Bottle";
import { FirstSteps } from "./FirstSteps";
import { FoundBottle } from "./FoundBottle";
import { aboutRun, dueAt, handsAt, type Run } from "./hands";

type Lot = Schemas["LotOut"];

/** The time of the server, ticking here. */
function useServerNow(at: string | undefined): number {
  const [ticks, setTicks] = useState(() => Date.now());
  const [offset, setOffset] = useState(0);
  useEffect(() => {
    if (at) setOffset(Date.parse(at) - Date.now());
  }, [at]);
  useEffect(() => {
    const timer = setInterval(() => setTicks(Date.now()), 5000);
    return () => clearInterval(timer);
  }, []);
  return ticks + offset;
}

/** What needs hands now, what waits and until when, what turns. */
export function ShiftView() {
  const session = useSession();
  const [found, setFound] = useState(false);
  const shift = useQuery(ask.shift());
  const now = useServerNow(shift.data?.now);
  if (shift.isPending) return <Shape rows={7} title="Shift" />;
  if (!shift.data) return <PageNotFetched title="Shift" question={shift} />;
  const { runs, turns, shelf, shelf_more: more, zone } = shift.data;
  const { first, rest, words } = handsAt(shift.data, now);
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-[32px]">
          {weekday(now, zone)}, {clock(new Date(now), zone)}
        </h1>
        <p className="text-soft">{words}</p>
      </div>
      {session.closes_at ? (
        <div className="mb-3">
          <Notice severity="stop">
            {session.house} is closed on {moment(session.closes_at, zone)}: everything in it is deleted for good then. A lead can call it
            off.
          </Notice>
        </div>
      ) : null}
      {runs.length + turns.length + shelf.length === 0 ? <FirstSteps /> : null}
      <ClockStrip runs={runs} now={now} zone={zone} serviceFrom={shift.data.service_from} serviceUntil={shift.data.service_until} />
      <div className="mt-3.5 grid gap-3.5 lg:grid-cols-[1.25fr_1fr_1fr]">
        <section className="tray p-4" aria-label="Hands">
          {first ? (
            <Hands run={first} now={now} />
          ) : (
            <Empty title="The bench is clear">
              What is made stands here with what it waits for.{" "}
              <Link to="/make" className="font-semibold text-rim underline">
                Start a batch
              </Link>
            </Empty>
          )}
          <ul>
            {rest.map((run) => (
              <RunLine key={run.id} run={run} now={now} zone={zone} />
            ))}
          </ul>
        </section>
        <section className="tray p-4" aria-label="Turns soon">
          <h2 className="mb-1 text-[20px]">Turns soon</h2>
          {turns.length === 0 ? <p className="text-soft">Nothing turns in the next two days.</p> : null}
          <ul>
            {turns.map((lot) => (
              <LotLine key={lot.code} lot={lot} today={now} />
            ))}
          </ul>
        </section>
        <section className="tray p-4" aria-label="On the shelf">
          <h2 className="mb-1 text-[20px]">On the shelf</h2>
          {shelf.length === 0 ? <p className="text-soft">Nothing keeps longer than two days. What is bottled next stands here.</p> : null}
          <ul>
            {shelf.map((lot) => (
              <LotLine key={lot.code} lot={lot} today={now} />
            ))}
          </ul>
          {canMake(session) ? (
            <Button className="mt-3" onClick={() => setFound(true)}>
              A bottle without a label
            </Button>
          ) : null}
          {more > 0 ? <p className="pt-2 text-soft">And {more} more that keep longer: find them by name or number.</p> : null}
        </section>
      </div>
      <AltitudeAsked />
      <FoundBottle open={found} onClose={() => setFound(false)} />
    </main>
  );
}

function Hands({ run, now }: { run: Run; now: number }) {
  return (
    <div className="flex items-center justify-between gap-4 rounded-[12px] bg-rim p-4 text-on-rim">
      <div>
        <h2 className="text-[22px]">{run.name}</h2>
        <p className="text-[15px]">
          {run.step} · {aboutRun(run, now)}
        </p>
      </div>
      <Link to={`/make/${run.id}`} className="inline-flex min-h-11 shrink-0 items-center rounded-full bg-enamel px-6 font-bold text-rim">
        Go to it
      </Link>
    </div>
  );
}

function RunLine({ run, now, zone }: { run: Run; now: number; zone: string }) {
  const until = dueAt(run);
  return (
    <li className="border-b border-line last:border-0">
      <Link
        to={`/make/${run.id}`}
        className="-mx-2 grid min-h-14 grid-cols-[1fr_auto] items-center gap-3 rounded-lg px-2 py-2 hover:bg-pick"
      >
        <span>
          <span className="block font-bold">{run.name}</span>
          <span className="block text-[14px] text-soft">
            {run.step} · {run.last}
          </span>
        </span>
        <span className="text-right">
          <span className={`figures block text-[16px] font-bold ${until && until <= now ? "text-warn" : ""}`}>
            {until ? (until <= now ? "now" : span(until - now)) : "now"}
          </span>
          <span className="block text-[14px] text-soft">{until ? clock(new Date(until), zone) : "at the bench"}</span>
        </span>
      </Link>
    </li>
  );
}

function LotLine({ lot, today }: { lot: Lot; today: number }) {
  const house = useSession();
  const word = dayWord(lot.use_by, house, today);
  const urgent = daysUntil(lot.use_by, house, today) <= 0;
  return (
    <li className="border-b border-line last:border-0">
      <Link
        to={`/lots/${lot.code}`}
        className="-mx-2 grid min-h-14 grid-cols-[22px_1fr_auto] items-center gap-3 rounded-lg px-2 py-2 hover:bg-pick"
      >
        <Bottle full={lot.left / lot.amount} bands={lot.final?.bands} />
        <span>
          <span className="block font-bold">{lot.name}</span>
          <span className="block text-[14px] text-soft">
            {lot.code} · {figure(lot.left, 0)}
            {GAP}
            {lot.unit} left{lot.allergens.length ? ` · ${lot.allergens.join(", ")}` : ""}
          </span>
        </span>
        <span className={`font-bold ${urgent ? "text-warn" : ""}`}>{word}</span>
      </Link>
    </li>
  );
}
