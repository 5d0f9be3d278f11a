import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { rowsOf } from "../../api/lists";
import { ask } from "../../api/queries";
import { Field } from "../../parts/Field";
import { useKeys } from "../../parts/keys";
import { More } from "../../parts/More";
import { Empty, NotFetched, Shape } from "../../parts/Notice";
import { day } from "../../parts/say";
import { canLead, useSession } from "../../session/session";
import { Openly } from "./Openly";
import { StandardsPart } from "./standards/StandardsPart";

/** What was tasted, what came out, what was decided; what is being tasted stands first. */
export function TasteView() {
  const session = useSession();
  const go = useNavigate();
  const [find, setFind] = useState("");
  const open = useInfiniteQuery(ask.panels("", "open"));
  const planned = useInfiniteQuery(ask.panels("", "planned"));
  const told = useInfiniteQuery(ask.panels(find, "told"));
  const lead = canLead(session);
  useKeys(lead ? [{ key: "n", says: "ask something", does: () => void go("/taste/new") }] : []);
  const [now, plans, done] = [rowsOf(open.data), rowsOf(planned.data), rowsOf(told.data)];
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-[32px]">Taste</h1>
        <div className="flex flex-wrap gap-2">
          <Link
            to="/taste/seat"
            className="act inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 font-semibold text-rim"
          >
            I have eight letters
          </Link>
          {lead ? (
            <Link
              to="/taste/new"
              className="act inline-flex min-h-11 items-center rounded-full border border-rim bg-rim px-5 font-bold text-on-rim"
            >
              Ask something
            </Link>
          ) : null}
        </div>
      </div>
      {now.length ? <Group title="On the table now" rows={now} zone={session.zone} /> : null}
      {plans.length ? <Group title="Planned" rows={plans} zone={session.zone} /> : null}
      <section className="tray p-4 md:p-5" aria-label="Told">
        <div className="mb-2 flex flex-wrap items-end justify-between gap-3">
          <h2 className="text-[20px]">What came out</h2>
          <Field label="Find a tasting" hideLabel placeholder="find a tasting" value={find} onChange={setFind} className="w-full sm:w-64" />
        </div>
        {told.isPending ? <Shape rows={3} /> : null}
        {done.length ? (
          <ul>
            {done.map((row) => (
              <Row key={row.id} row={row} zone={session.zone} />
            ))}
          </ul>
        ) : told.data ? (
          <Empty title={find ? "Nothing with these words" : "Nothing was tasted here yet"}>
            {find
              ? "Look for another word of the question, or of what was decided."
              : "Old version against new, house against bought, five in the same drink: Ulsek proposes how, hides which is which, and says what came out, and what did not. Begin with “Ask something”."}
          </Empty>
        ) : null}
        <More list={told} />
        <NotFetched questions={[open, planned, told]} />
      </section>
      <StandardsPart may={lead} />
      <Openly find={find} zone={session.zone} />
    </main>
  );
}

function Group({ title, rows, zone }: { title: string; rows: Schemas["PanelRow"][]; zone: string }) {
  return (
    <section className="tray mb-3.5 p-4 md:p-5" aria-label={title}>
      <h2 className="mb-1 text-[20px]">{title}</h2>
      <ul>
        {rows.map((row) => (
          <Row key={row.id} row={row} zone={zone} />
        ))}
      </ul>
    </section>
  );
}

const share = (row: Schemas["PanelRow"]) => (row.of ? (100 * row.answered) / row.of : 0);

function Row({ row, zone }: { row: Schemas["PanelRow"]; zone: string }) {
  return (
    <li className="border-t border-line first:border-t-0">
      <Link to={`/taste/${row.id}`} className="grid gap-x-6 gap-y-1 py-3 hover:bg-pick md:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
        <span>
          <b className="text-[17px]">{row.question}</b>
          <span className="block text-[15px] text-soft">
            {row.code} · {row.method_name} · {row.tasters} {row.tasters === 1 ? "taster" : "tasters"}
            {row.rounds > 1 ? `, ${row.rounds} rounds` : ""} · {day(row.told_at ?? row.opened_at ?? row.made_at, zone)}
          </span>
        </span>
        {row.state === "told" ? (
          <span>
            <span className="font-semibold">{row.headline}</span>
            <span className="block text-[15px] text-soft">
              {row.decision ? `Decided by ${row.decided_by}: ${row.decision}` : "Nothing is decided yet."}
            </span>
          </span>
        ) : row.state === "open" ? (
          <span className="flex items-center gap-3">
            <svg viewBox="0 0 100 10" className="h-2.5 w-40" preserveAspectRatio="none" aria-hidden="true">
              <rect width="100" height="10" rx="5" fill="var(--line)" />
              <rect width={share(row)} height="10" rx="5" fill="var(--rim)" />
            </svg>
            <span>
              {row.answered} of {row.of} answered · <b>the seal is on</b>
            </span>
          </span>
        ) : (
          <span className="text-soft">planned by {row.made_by}, not opened yet</span>
        )}
      </Link>
    </li>
  );
}
