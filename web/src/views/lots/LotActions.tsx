import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import { Button } from "../../parts/Button";
import { KnownField } from "../../parts/KnownField";
import { Trouble } from "../../parts/Notice";
import { Sheet } from "../../parts/Sheet";
import { actionsOn, LOT_ACTIONS, type Lot, saidOf } from "./pour";

/** What is done to a lot: opened, used, decanted, topped up, moved, counted, split, tossed with a reason. */
export function LotActions({ lot }: { lot: Lot }) {
  const queries = useQueryClient();
  const [kind, setKind] = useState<string | null>(null);
  const [said, setSaid] = useState<Record<string, string>>({});
  const send = useMutation({
    mutationFn: (done: string) =>
      unwrap(
        client.POST("/api/lots/{code}/events", { params: { path: { code: lot.code } }, body: { kind: done, body: saidOf(done, said) } }),
      ),
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
  const kinds = actionsOn(lot);
  if (kinds.length === 0) return null;
  const action = kind ? LOT_ACTIONS[kind] : null;
  return (
    <section className="tray mb-3.5 p-5 print:hidden" aria-label="What is done with it">
      <div className="flex flex-wrap gap-2">
        {kinds.map((item) => (
          <Button key={item} look={item === "tossed" ? "warn" : "plain"} onClick={() => begin(item)} disabled={send.isPending}>
            {LOT_ACTIONS[item]?.word}
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
          {action?.about ? <p className="text-soft">{action.about}</p> : null}
          {(action?.asks ?? []).map(({ name, ask, free }, n) => (
            <KnownField
              key={name}
              kind={name === "place" ? "place" : null}
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
