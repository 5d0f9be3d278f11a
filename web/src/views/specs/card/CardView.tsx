import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { LANGUAGES } from "../../../parts/languages";
import { NotFetched, Shape } from "../../../parts/Notice";
import { figure, typed } from "../../../parts/numbers";
import { useSession } from "../../../session/session";
import { SpecParts } from "../SpecParts";
import { AllergensAnswer } from "./AllergensAnswer";
import { cardWish, SCALES, type Scale, sizeNow, stepped } from "./asked";
import { BeforeMaking } from "./BeforeMaking";
import { CardPage } from "./CardPage";
import { CopyNotices } from "./CopyNotices";

const BESIDE = [
  { value: "nothing", label: "weights alone" },
  { value: "volume", label: "millilitres beside" },
  { value: "cups", label: "cups beside" },
] as const;
/** One page that a new hire can make it from, at the batch that is wanted; on screen and as PDF. */
export function CardView() {
  const { spec = "" } = useParams();
  const [search] = useSearchParams();
  const session = useSession();
  const carried = Number(search.get("from")) || null;
  const [language, setLanguage] = useState(session.language);
  const [scale, setScale] = useState<Scale>("spec");
  const [amount, setAmount] = useState("");
  const [beside, setBeside] = useState(session.beside as (typeof BESIDE)[number]["value"]);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const number = Number(search.get("number")) || undefined;
  const value = typed(amount);
  const wish = cardWish({ language, beside, chosen, number, scale, value });
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
  const step = (by: 1 | -1) => {
    if (scale !== "spec") setAmount(String(stepped(scale, made, value, by)));
  };
  return (
    <main className="mx-auto max-w-[980px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3 print:hidden">
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
                placeholder={scale === "have_g" ? "grams" : figure(sizeNow(scale, made), 0)}
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
      <CopyNotices made={made} carried={carried} spec={spec} />
      <BeforeMaking spec={spec} number={made.number} />
      <NotFetched questions={[card]} />
      <CardPage made={made} />
      <section className="mt-4 px-1" aria-label="What may be said of allergens">
        <h2 className="text-[18px]">A guest asks about allergens</h2>
        <AllergensAnswer spec={spec} />
      </section>
    </main>
  );
}
