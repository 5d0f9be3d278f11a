import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask, type CardWish } from "../../../api/queries";
import { STRIDES, USUAL } from "../../../api/rules";
import { useSession } from "../../../app/session";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { NotFetched, Notice, Shape, Trouble } from "../../../parts/Notice";
import { figure, GAP, typed } from "../../../parts/numbers";
import { LANGUAGES } from "../languages";
import { SpecParts } from "../SpecParts";
import { AllergensAnswer } from "./AllergensAnswer";
import { Questions } from "./Questions";

type Card = Schemas["CardOut"];
const SCALES = [
  { value: "spec", label: "as the spec says" },
  { value: "volume_ml", label: "to a yield, mL" },
  { value: "serves", label: "to serves" },
  { value: "have_g", label: "I have this much, g" },
  { value: "times", label: "so many times the spec" },
] as const;
const BESIDE = [
  { value: "nothing", label: "weights alone" },
  { value: "volume", label: "millilitres beside" },
  { value: "cups", label: "cups beside" },
] as const;
type Scale = (typeof SCALES)[number]["value"];

/** What a batch is now by one way of asking, and how far one press of + goes. */
function batch(scale: Exclude<Scale, "spec">, made: Card): { now: number; stride: number } {
  const now = { serves: made.serves, times: 1, volume_ml: made.volume_ml, have_g: USUAL.have_g }[scale];
  return { now: Math.round(now), stride: STRIDES[scale] };
}

/** One page that a new hire can make it from, at the batch that is wanted; on screen and as PDF. */
export function CardView() {
  const { spec = "" } = useParams();
  const [search] = useSearchParams();
  const session = useSession();
  const carried = Number(search.get("from")) || null;
  const [language, setLanguage] = useState<(typeof LANGUAGES)[number]["value"]>("en");
  const [scale, setScale] = useState<Scale>("spec");
  const [amount, setAmount] = useState("");
  const [beside, setBeside] = useState(session.beside as (typeof BESIDE)[number]["value"]);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const number = Number(search.get("number")) || undefined;
  const value = typed(amount);
  const wish: CardWish = {
    language,
    beside,
    chosen: Object.entries(chosen)
      .map(([group, choice]) => `${group}=${choice}`)
      .join(","),
    ...(number ? { number } : {}),
    ...(scale !== "spec" && value !== null ? { [scale]: value } : {}),
  };
  const card = useQuery(ask.card(spec, wish));
  if (card.isPending) return <Shape rows={7} title="Card" />;
  const made = card.data;
  if (!made) {
    return (
      <main className="mx-auto max-w-[900px] p-4">
        <div className="mb-3">
          <SpecParts spec={spec} />
        </div>
        <h1 className="text-[28px]">Card</h1>
        <NotFetched questions={[card]} />
      </main>
    );
  }
  const query = new URLSearchParams(Object.entries(wish).map(([key, item]) => [key, String(item)])).toString();
  const step = (by: number) => {
    if (scale === "spec") return;
    const { now, stride } = batch(scale, made);
    setAmount(String(Math.max(Math.min(1, stride), (value ?? now) + by * stride)));
  };
  return (
    <main className="mx-auto max-w-[980px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <SpecParts spec={spec} />
        <div className="flex flex-wrap items-center gap-2">
          <Choice
            label="Batch size"
            value={scale}
            options={SCALES}
            onChange={(next) => {
              setScale(next);
              setAmount("");
            }}
          />
          {scale !== "spec" ? (
            <>
              <Button onClick={() => step(-1)} aria-label="Less">
                −
              </Button>
              <Field
                hideLabel
                label="How much"
                className="w-32"
                inputMode="decimal"
                value={amount}
                onChange={setAmount}
                placeholder={scale === "have_g" ? "grams" : figure(batch(scale, made).now, 0)}
              />
              <Button onClick={() => step(1)} aria-label="More">
                +
              </Button>
            </>
          ) : null}
          {made.choices.map((group) => (
            <Choice
              key={group.id}
              label={group.name}
              value={group.chosen}
              options={group.choices.map((item) => ({ value: item.id, label: `${group.name}: ${item.name}` }))}
              onChange={(choice) => setChosen({ ...chosen, [group.id]: choice })}
            />
          ))}
          <Choice label="Language of the card" value={language} options={LANGUAGES} onChange={setLanguage} />
          <Choice label="What stands beside weights" value={beside} options={BESIDE} onChange={setBeside} />
          <a
            href={`/api/specs/${spec}/card.pdf?${query}`}
            target="_blank"
            rel="noreferrer"
            className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
          >
            Print
          </a>
        </div>
      </div>
      <Standing made={made} carried={carried} spec={spec} />
      <Reading spec={spec} number={made.number} />
      <NotFetched questions={[card]} />
      <CardPage made={made} />
      <section className="mt-4 px-1" aria-label="What may be said of allergens">
        <h2 className="text-[18px]">A guest asks about allergens</h2>
        <AllergensAnswer spec={spec} />
      </section>
    </main>
  );
}

/** Whether this is what holds now: withdrawn, with what takes its place; or an older copy than the newest. */
function Standing({ made, carried, spec }: { made: Card; carried: number | null; spec: string }) {
  return (
    <div className="mb-3 grid gap-2">
      {made.withdrawn ? (
        <Notice severity="stop">
          {made.labels.withdrawn} {made.withdrawn}{" "}
          {made.successor ? (
            <Link to={`/specs/${spec}/card?number=${made.successor}`} className="font-bold underline">
              Version {made.successor} takes its place
            </Link>
          ) : null}
        </Notice>
      ) : null}
      {carried && carried < made.newest ? (
        <Notice severity="check">
          The copy in your hand is version {carried}. This is version {made.number}: {made.why}.
        </Notice>
      ) : null}
      {made.number < made.newest && !made.withdrawn ? (
        <Notice severity="check">
          <Link to={`/specs/${spec}/card`} className="font-bold underline">
            Version {made.newest}
          </Link>{" "}
          is newer.
        </Notice>
      ) : null}
    </div>
  );
}

/** What this reader has still to do with it: acknowledge a critical change, answer its questions. */
function Reading({ spec, number }: { spec: string; number: number }) {
  const queries = useQueryClient();
  const session = useSession();
  const state = useQuery(ask.reading(spec, number));
  const [asking, setAsking] = useState(false);
  const read = useMutation({
    mutationFn: () =>
      unwrap(client.POST("/api/specs/{spec_id}/versions/{number}/acknowledge", { params: { path: { spec_id: spec, number } } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ask.reading(spec, number).queryKey }),
  });
  const found = state.data;
  if (!found) return null;
  const unread = found.critical && !found.acknowledged;
  const untested = session.role === "maker" && !found.passed && found.questions.length > 0;
  return (
    <>
      {unread ? (
        <div className="tray mb-3 flex flex-wrap items-center justify-between gap-3 p-4">
          <p>
            <b>A critical change.</b> Read the card, then say so; it is asked once.
          </p>
          <Button look="main" onClick={() => read.mutate()} disabled={read.isPending}>
            I have read it
          </Button>
        </div>
      ) : null}
      {untested ? (
        <div className="tray mb-3 flex flex-wrap items-center justify-between gap-3 p-4">
          <p>
            <b>Your first make of it.</b> Three questions, out of this card.
          </p>
          <Button look="main" onClick={() => setAsking(true)}>
            Answer them
          </Button>
        </div>
      ) : null}
      <Trouble error={read.error} />
      <Questions spec={spec} number={number} questions={found.questions} open={asking} onClose={() => setAsking(false)} />
    </>
  );
}

function CardPage({ made }: { made: Card }) {
  const { labels } = made;
  const facts = [
    [labels.reads, made.reads.join(" · ")],
    [labels.keeps, made.keeps],
    [labels.allergens, made.allergens],
    [labels.free_from, made.free_from],
    [labels.options, made.options.join(", ")],
    ...made.cautions.map((caution, n) => [n ? "" : labels.cautions, caution]),
  ];
  return (
    <article className="tray p-5 md:p-7" lang={made.language}>
      <h1 className="text-[26px] sm:text-[34px]">{made.name}</h1>
      <p className="text-soft">
        {made.family ? `${made.family} · ` : ""}
        {labels.version} {made.number} · {made.author}
      </p>
      <p className="mt-1 text-[18px]">
        <b>
          {labels.makes} {made.makes}
        </b>{" "}
        <span className="text-soft">
          · {labels.takes} {made.takes}
        </span>
      </p>
      <p className="my-3 border-y border-rim py-2">
        <b>{labels.gear}:</b> {made.gear.join(", ")}
      </p>
      <ol>
        {made.steps.map((step) => (
          <li
            key={step.id}
            className="grid grid-cols-[34px_1fr] gap-x-3 border-b border-line py-3 sm:grid-cols-[34px_1fr_minmax(220px,42%)]"
          >
            <span className="figures text-[22px] font-bold text-rim">{step.number}</span>
            <div>
              {step.place ? <p className="text-[14px] font-semibold text-rim">{step.place}</p> : null}
              <p className="text-[18px] font-bold">{step.title}</p>
              {step.note ? (
                <p className="text-soft">
                  {step.note}
                  {made.marks ? <i> ({labels.as_written})</i> : null}
                </p>
              ) : null}
              {step.check ? <p className="text-soft">{step.check}</p> : null}
            </div>
            <ul className="col-start-2 grid gap-1 sm:col-start-3">
              {step.lines.map((line) => (
                <li key={line.id} className="flex items-baseline justify-between gap-3">
                  <span>
                    {line.name}
                    <span className="block text-[14px] text-soft">{line.how}</span>
                  </span>
                  <span className="figures text-right text-[20px] font-bold whitespace-nowrap">
                    {line.amount}
                    {line.beside ? (
                      <span className="block text-[14px] font-normal text-soft">
                        {GAP}
                        {line.beside}
                      </span>
                    ) : null}
                  </span>
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
      <dl className="mt-4 grid gap-x-4 gap-y-1 sm:grid-cols-[11rem_1fr]">
        {facts.map(([name, text]) =>
          text ? (
            <div key={`${name}${text}`} className="contents">
              <dt className="font-bold">{name}</dt>
              <dd>{text}</dd>
            </div>
          ) : null,
        )}
      </dl>
      <p className="mt-3 text-[14px] text-soft">{labels.follow}</p>
    </article>
  );
}
