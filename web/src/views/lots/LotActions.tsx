import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../api/client";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Trouble } from "../../parts/Notice";
import { typed } from "../../parts/numbers";
import { Sheet } from "../../parts/Sheet";

type Lot = Schemas["LotOut"];
interface Asked {
  name: "amount" | "place" | "text" | "reason" | "from";
  ask: string;
  /** May stay empty. */
  free?: true;
}
const how_much = (ask: string): Asked => ({ name: "amount", ask });
const LOT_ACTIONS: Record<string, { word: string; asks: readonly Asked[] }> = {
  opened: { word: "Open it", asks: [] },
  used: { word: "Used some", asks: [how_much("How much went")] },
  decanted: {
    word: "Decant some",
    asks: [how_much("How much goes into the rail bottle"), { name: "place", ask: "Where that stands", free: true }],
  },
  topped_up: {
    word: "Top it up",
    asks: [{ name: "from", ask: "Which lot is poured in" }, how_much("How much of it")],
  },
  moved: { word: "Move it", asks: [{ name: "place", ask: "Where it stands now" }] },
  counted: { word: "Count it", asks: [how_much("How much is left")] },
  split: { word: "Split some off", asks: [how_much("How much goes into another bottle")] },
  tasted: { word: "Taste it", asks: [{ name: "text", ask: "How it tastes today" }] },
  tossed: { word: "Toss it", asks: [{ name: "reason", ask: "Why" }] },
};
const ABOUT: Record<string, string> = {
  decanted: "A lot of its own, opened from now on, with its own label.",
  topped_up: "The mixture takes the earlier date, all allergens, and the rules of both.",
};

/** What is done to a lot: opened, used, decanted, topped up, moved, counted, split, tossed with a reason. */
export function LotActions({ lot }: { lot: Lot }) {
  const queries = useQueryClient();
  const [kind, setKind] = useState<string | null>(null);
  const [said, setSaid] = useState<Record<string, string>>({});
  const send = useMutation({
    mutationFn: (done: string) => {
      const body = Object.fromEntries(
        (LOT_ACTIONS[done]?.asks ?? []).map(({ name }) => [name, name === "amount" ? typed(said[name] ?? "") : (said[name] ?? "").trim()]),
      );
      return unwrap(client.POST("/api/lots/{code}/events", { params: { path: { code: lot.code } }, body: { kind: done, body } }));
    },
    onSuccess: () => {
      setKind(null);
      setSaid({});
      void queries.invalidateQueries({ queryKey: ["lot"] });
      void queries.invalidateQueries({ queryKey: ["lots"] });
    },
  });
  const begin = (next: string) => {
    send.reset();
    setSaid({});
    if (LOT_ACTIONS[next]?.asks.length) setKind(next);
    else send.mutate(next);
  };
  if (lot.gone_at) return null;
  const action = kind ? LOT_ACTIONS[kind] : null;
  return (
    <section className="tray mb-3.5 p-5 print:hidden" aria-label="What is done with it">
      <div className="flex flex-wrap gap-2">
        {Object.entries(LOT_ACTIONS)
          .filter(([item]) => item !== "opened" || !lot.opened_at)
          .map(([item, { word }]) => (
            <Button key={item} look={item === "tossed" ? "warn" : "plain"} onClick={() => begin(item)} disabled={send.isPending}>
              {word}
            </Button>
          ))}
      </div>
      {kind ? null : <Trouble error={send.error} />}
      <Sheet open={action !== null} onClose={() => setKind(null)} title={action?.word ?? ""} about={`${lot.name}, ${lot.code}`}>
        <form
          className="grid gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            if (kind) send.mutate(kind);
          }}
        >
          {kind && ABOUT[kind] ? <p className="text-soft">{ABOUT[kind]}</p> : null}
          {(action?.asks ?? []).map(({ name, ask, free }, n) => (
            <Field
              key={name}
              size={free ? "usual" : "bench"}
              label={ask}
              {...(name === "amount" ? { unit: lot.unit } : {})}
              inputMode={name === "amount" ? "decimal" : "text"}
              value={said[name] ?? ""}
              onChange={(text) => setSaid({ ...said, [name]: text })}
              autoFocus={n === 0}
            />
          ))}
          <Trouble error={send.error} />
          <Button look={kind === "tossed" ? "warn" : "main"} size="bench" type="submit" disabled={send.isPending}>
            {action?.word}
          </Button>
        </form>
      </Sheet>
    </section>
  );
}
