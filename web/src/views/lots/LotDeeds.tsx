import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, told } from "../../api/client";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Trouble } from "../../parts/Notice";
import { Sheet } from "../../parts/Sheet";
import { typed } from "../../parts/say";

type Lot = Schemas["LotOut"];
const DEEDS = {
  opened: { word: "Open it", ask: "", unit: "", name: "" },
  used: { word: "Used some", ask: "How much went", unit: "mL", name: "amount" },
  moved: { word: "Move it", ask: "Where it stands now", unit: "", name: "place" },
  counted: { word: "Count it", ask: "How much is left", unit: "mL", name: "amount" },
  split: { word: "Split some off", ask: "How much goes into another bottle", unit: "mL", name: "amount" },
  tasted: { word: "Taste it", ask: "How it tastes today", unit: "", name: "text" },
  tossed: { word: "Toss it", ask: "Why", unit: "", name: "reason" },
} as const;
type Kind = keyof typeof DEEDS;

/** What is done to a lot: opened, used, moved, counted, split, tossed with a reason. */
export function LotDeeds({ lot }: { lot: Lot }) {
  const queries = useQueryClient();
  const [kind, setKind] = useState<Kind | null>(null);
  const [text, setText] = useState("");
  const send = useMutation({
    mutationFn: (done: Kind) => {
      const { name } = DEEDS[done];
      const body: Record<string, unknown> = name === "amount" ? { amount: typed(text) } : name ? { [name]: text } : {};
      return told(client.POST("/api/lots/{code}/events", { params: { path: { code: lot.code } }, body: { kind: done, body } }));
    },
    onSuccess: () => {
      setKind(null);
      setText("");
      void queries.invalidateQueries({ queryKey: ["lot"] });
      void queries.invalidateQueries({ queryKey: ["lots"] });
    },
  });
  const begin = (next: Kind) => {
    send.reset();
    if (DEEDS[next].name) setKind(next);
    else send.mutate(next);
  };
  if (lot.gone_at) return null;
  const deed = kind ? DEEDS[kind] : null;
  return (
    <section className="tray mb-3.5 p-5" aria-label="What is done with it">
      <div className="flex flex-wrap gap-2">
        {(Object.keys(DEEDS) as Kind[])
          .filter((item) => item !== "opened" || !lot.opened_at)
          .map((item) => (
            <Button key={item} look={item === "tossed" ? "warn" : "plain"} onClick={() => begin(item)} disabled={send.isPending}>
              {DEEDS[item].word}
            </Button>
          ))}
      </div>
      {kind ? null : <Trouble error={send.error} />}
      <Sheet open={deed !== null} onClose={() => setKind(null)} title={deed?.word ?? ""} about={`${lot.name}, ${lot.code}`}>
        <form
          className="grid gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            if (kind) send.mutate(kind);
          }}
        >
          <Field
            size="bench"
            label={deed?.ask ?? ""}
            {...(deed?.unit ? { unit: lot.unit } : {})}
            inputMode={deed?.unit ? "decimal" : "text"}
            value={text}
            onChange={setText}
            autoFocus
          />
          <Trouble error={send.error} />
          <Button look={kind === "tossed" ? "warn" : "main"} size="bench" type="submit" disabled={send.isPending}>
            {deed?.word}
          </Button>
        </form>
      </Sheet>
    </section>
  );
}
