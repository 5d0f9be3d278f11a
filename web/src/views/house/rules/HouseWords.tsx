import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { GAP, typed } from "../../../parts/numbers";
import { FormEnd } from "./FormEnd";
import { UNSAID } from "./rules";
import { useKeptSheet } from "./useKeptSheet";

type Word = Schemas["WordRow"];
const PARTS = [
  { name: "value", label: "Usually" },
  { name: "low", label: "At least" },
  { name: "high", label: "At most" },
] as const;
const unitOf = (word: Word) => (word.unit === "ml" ? "mL" : word.unit);

/** What a handful holds here: weighed once, and read so in every recipe that is pasted. */
export function HouseWords({ words }: { words: readonly Word[] }) {
  return (
    <section className="tray p-5" aria-label="Handfuls and dashes">
      <h2 className="text-[20px]">Handfuls and dashes</h2>
      <p className="mb-2 text-soft">
        What a pasted recipe means by such a word. Weigh it once in your own hand: it is read so from then on.
      </p>
      <ul>
        {words.map((word) => (
          <WordLine key={word.key} word={word} />
        ))}
      </ul>
    </section>
  );
}

function WordLine({ word }: { word: Word }) {
  const settled = useKeptSheet();
  const [written, setWritten] = useState<Readonly<Record<string, string>> | null>(null);
  const [fault, setFault] = useState("");
  const keep = useMutation({
    mutationFn: (figures: Record<string, number>) =>
      unwrap(client.PUT("/api/rules/one", { body: { ...UNSAID, table: "words", key: word.key, figures, unit: word.unit } })),
    onSuccess: (next) => {
      settled(next);
      setWritten(null);
    },
  });
  const drop = useMutation({
    mutationFn: () => unwrap(client.POST("/api/rules/one/drop", { body: { ...UNSAID, table: "words", key: word.key } })),
    onSuccess: settled,
  });
  if (written === null) {
    return (
      <li className="flex flex-wrap items-center justify-between gap-x-3 border-t border-line py-1">
        <p>
          <b>{word.key}</b> {word.value}
          {GAP}
          {unitOf(word)}{" "}
          <span className="text-soft">
            ({word.low} to {word.high})
          </span>
          {word.own ? <span className="ml-2 rounded-md border border-rim px-1.5 text-[14px]">ours</span> : null}
        </p>
        <div className="flex gap-1">
          <Button
            look="quiet"
            onClick={() => setWritten(Object.fromEntries(PARTS.map(({ name }) => [name, String(word[name])])))}
            aria-label={`Change what a ${word.key} is`}
          >
            Change
          </Button>
          {word.own ? (
            <Button look="quiet" disabled={drop.isPending} onClick={() => drop.mutate()} aria-label={`A ${word.key} as it ships`}>
              As it ships
            </Button>
          ) : null}
        </div>
        <Trouble error={drop.error} />
      </li>
    );
  }
  return (
    <li>
      <form
        className="my-2 grid gap-3 rounded-xl bg-quiet p-4"
        aria-label={`What a ${word.key} is`}
        onSubmit={(event) => {
          event.preventDefault();
          const read = PARTS.map(({ name }) => [name, typed(written[name] ?? "")] as const);
          const whole = read.every(([, value]) => value !== null);
          setFault(whole ? "" : "Write figures, such as 2.5.");
          if (whole) keep.mutate(Object.fromEntries(read) as Record<string, number>);
        }}
      >
        <div className="flex flex-wrap gap-3">
          {PARTS.map(({ name, label }) => (
            <Field
              key={name}
              className="w-40"
              label={label}
              unit={unitOf(word)}
              inputMode="decimal"
              value={written[name] ?? ""}
              onChange={(text) => setWritten({ ...written, [name]: text })}
            />
          ))}
        </div>
        <FormEnd fault={fault} keep={keep} onBack={() => setWritten(null)} />
      </form>
    </li>
  );
}
