import { useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, Problem, type Schemas, unwrap } from "../../api/client";
import { rowsOf } from "../../api/lists";
import { ask } from "../../api/queries";
import { canMake, useSession } from "../../app/session";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Field } from "../../parts/Field";
import { More } from "../../parts/More";
import { Empty, Shape, Trouble } from "../../parts/Notice";
import { figure, GAP, typed } from "../../parts/numbers";
import { Sheet } from "../../parts/Sheet";
import { clock } from "../../parts/say";

const CAPTURE = { to: "/make/capture", word: "Capture without a spec" };
const WAYS_ON = [
  { to: "/make/instruments", word: "Instruments" },
  { to: "/make/containers", word: "Containers" },
];

/** What is on the bench, and what can be started. */
export function MakeView() {
  const session = useSession();
  const runs = useQuery(ask.openRuns());
  const [find, setFind] = useState("");
  const sought = useDeferredValue(find.trim());
  const specs = useInfiniteQuery(ask.librarySlices({ find: sought, state: "published" }));
  const [starting, setStarting] = useState<Schemas["SpecRow"] | null>(null);
  if (runs.isPending || specs.isPending) return <Shape rows={6} />;
  const ready = rowsOf(specs.data).filter((item) => item.version);
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-[32px]">Make</h1>
        <nav className="flex flex-wrap gap-2" aria-label="More of Make">
          {(canMake(session) ? [...WAYS_ON, CAPTURE] : WAYS_ON).map((way) => (
            <Link
              key={way.to}
              to={way.to}
              className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
            >
              {way.word}
            </Link>
          ))}
          <a
            href="/api/waits.ics"
            className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
          >
            Waits as a calendar
          </a>
        </nav>
      </div>
      <Trouble error={runs.error ?? specs.error} />
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-2">
        <section className="tray self-start p-5" aria-label="On the bench">
          <h2 className="mb-1 text-[20px]">On the bench</h2>
          {runs.data?.length === 0 ? <Empty title="Nothing is running">Choose a spec beside this, weigh the fruit, and go.</Empty> : null}
          <ul>
            {runs.data?.map((run) => (
              <li key={run.id} className="border-t border-line">
                <Link
                  to={`/make/${run.id}`}
                  className="-mx-2 grid min-h-16 grid-cols-[1fr_auto] items-center gap-4 rounded-lg px-2 py-2 hover:bg-pick"
                >
                  <span>
                    <span className="block text-[18px] font-bold">
                      {run.name}
                      {run.rehearsal ? <span className="ml-2 font-normal text-soft">rehearsal</span> : null}
                    </span>
                    <span className="block text-soft">
                      {run.code} · {run.step} · {run.last}
                    </span>
                  </span>
                  <span className="figures text-right text-[16px] font-bold">
                    {run.number}/{run.of}
                    {run.waiting ? (
                      <span className="block text-[14px] font-normal text-soft">until {clock(run.waiting.until, session.zone)}</span>
                    ) : null}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        </section>
        <section className="tray self-start p-5" aria-label="Start a batch">
          <div className="mb-2 flex flex-wrap items-center justify-between gap-3">
            <h2 className="text-[20px]">Start a batch</h2>
            <Field hideLabel label="Find what to start" placeholder="find by any word" value={find} onChange={setFind} className="w-56" />
          </div>
          {ready.length === 0 ? (
            <p className="text-soft">{sought ? "Nothing published is called that." : "No spec is published yet."}</p>
          ) : null}
          <ul>
            {ready.map((spec) => (
              <li key={spec.id} className="flex min-h-16 items-center justify-between gap-4 border-t border-line py-2">
                <span>
                  <span className="block text-[18px] font-bold">{spec.name}</span>
                  <span className="block text-soft">
                    version {spec.version}
                    {spec.brief ? ` · makes ${figure(spec.brief.volume_ml / 1000, 2)}${GAP}L` : ""}
                  </span>
                </span>
                {canMake(session) ? (
                  <Button onClick={() => setStarting(spec)} aria-label={`Start ${spec.name}`}>
                    Start
                  </Button>
                ) : null}
              </li>
            ))}
          </ul>
          <More list={specs}>More to start</More>
        </section>
      </div>
      <StartRun spec={starting} onClose={() => setStarting(null)} />
    </main>
  );
}

const WAYS = [
  { value: "weight", label: "from what I weighed" },
  { value: "yield", label: "to a yield" },
  { value: "times", label: "so many times the spec" },
  { value: "spec", label: "as the spec says" },
] as const;
/** What each way asks for, and what it is called when it is sent. */
const ASKS = {
  weight: { field: "mass_g", label: "What the scale shows", unit: "g" },
  yield: { field: "volume_ml", label: "How much it should make", unit: "mL" },
  times: { field: "factor", label: "How many times", unit: "×" },
} as const;
/** Refusals that the spec's card answers: questions to answer, a change to read, a withdrawal. */
const TO_THE_CARD = ["questions_open", "unread", "withdrawn"];
type Way = (typeof WAYS)[number]["value"];

function StartRun({ spec, onClose }: { spec: Schemas["SpecRow"] | null; onClose: () => void }) {
  const go = useNavigate();
  const [way, setWay] = useState<Way>("weight");
  const [amount, setAmount] = useState("");
  const [fault, setFault] = useState<string>();
  const [id] = useState(() => crypto.randomUUID());
  const [rehearsal, setRehearsal] = useState(false);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const card = useQuery({ ...ask.card(spec?.id ?? "", { language: "en" }), enabled: spec !== null });
  const groups = spec ? (card.data?.choices ?? []) : [];
  const start = useMutation({
    mutationFn: (value: number | null) =>
      unwrap(
        client.POST("/api/runs", {
          body: {
            id,
            spec: spec?.id ?? "",
            rehearsal,
            chosen: Object.fromEntries(groups.map((group) => [group.id, chosen[group.id] ?? group.chosen])),
            ...(way === "spec" ? {} : { [ASKS[way].field]: value }),
          },
        }),
      ),
    onSuccess: (run) => void go(`/make/${run.id}`),
  });
  const send = () => {
    const value = way === "spec" ? null : typed(amount);
    if (way !== "spec" && value === null)
      return setFault(amount ? `“${amount}” is no number. Write figures, such as 1340.` : "Type a figure, such as 2.");
    setFault(undefined);
    start.mutate(value);
  };
  const problem =
    start.error instanceof Problem && ["mass_g", "volume_ml", "factor"].includes(start.error.where) ? start.error.detail : undefined;
  return (
    <Sheet
      open={spec !== null}
      onClose={onClose}
      title={`Start ${spec?.name.toLowerCase() ?? ""}`}
      about="The batch is scaled to it; the spec stays as it is."
    >
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <Choice label="Start from" value={way} options={WAYS} onChange={setWay} />
        {groups.map((group) => (
          <Choice
            key={group.id}
            label={group.name}
            value={chosen[group.id] ?? group.chosen}
            options={group.choices.map((item) => ({ value: item.id, label: `${group.name}: ${item.name}` }))}
            onChange={(choice) => setChosen({ ...chosen, [group.id]: choice })}
          />
        ))}
        {way === "spec" ? null : (
          <Field
            size="bench"
            label={ASKS[way].label}
            unit={ASKS[way].unit}
            inputMode="decimal"
            value={amount}
            onChange={setAmount}
            fault={fault ?? problem}
            autoFocus
          />
        )}
        <label className="flex min-h-14 items-center gap-3 text-[18px]">
          <input
            type="checkbox"
            className="size-6 accent-rim"
            checked={rehearsal}
            onChange={(event) => setRehearsal(event.target.checked)}
          />
          rehearse it: simulated instruments, nothing from the store, only for me
        </label>
        <Trouble error={problem ? null : start.error} />
        {start.error instanceof Problem && TO_THE_CARD.includes(start.error.code) ? (
          <Link
            to={`/specs/${spec?.id}/card`}
            className="inline-flex min-h-16 items-center justify-center rounded-[16px] border-2 border-rim text-[20px] font-bold text-rim"
          >
            Its card
          </Link>
        ) : null}
        <Button look="main" size="bench" type="submit" disabled={start.isPending}>
          Start
        </Button>
      </form>
    </Sheet>
  );
}
