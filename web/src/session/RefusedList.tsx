import { useMutation, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { Button } from "../parts/Button";
import { Trouble } from "../parts/Notice";
import { span } from "../parts/say";
import { type QueuedAction, value } from "../sync/database";
import { keptKey } from "../sync/keys";
import { dismiss } from "../sync/queue";

type Decision = "keep" | "again" | "throw_away";
const DECISIONS: readonly { value: Decision; says: string }[] = [
  { value: "keep", says: "Keep it for the lead" },
  { value: "again", says: "I do it again myself" },
  { value: "throw_away", says: "Throw it away" },
];

/** What the site refused, and why; its own person, or a lead, says what becomes of each. */
export function RefusedList({ items }: { items: readonly QueuedAction[] }) {
  const actor = useQuery({ queryKey: ["actor"], queryFn: async () => (await value("actor")) ?? null, staleTime: 0, gcTime: 0 });
  return (
    <ul className="grid gap-4">
      {items.map((item) => (
        <li key={item.id} className="rounded-[14px] bg-quiet p-4">
          <RefusedItem item={item} mayDecide={item.person === 0 || item.person === actor.data?.person || actor.data?.role === "lead"} />
        </li>
      ))}
    </ul>
  );
}

function RefusedItem({ item, mayDecide }: { item: QueuedAction; mayDecide: boolean }) {
  const decide = useMutation({
    mutationFn: async (decision: Decision) => {
      const certificate = (await keptKey(item.key))?.certificate ?? "";
      const { text, signature } = item;
      await unwrap(
        client.POST("/api/signed-actions/refused", { body: { text, signature, certificate, decision, why: item.refusal?.detail ?? "" } }),
      );
      await dismiss(item);
    },
  });
  return (
    <>
      <p className="text-[18px] font-bold">{item.what}</p>
      <p className="text-soft">
        {item.by || "Nobody named"} · {span(Date.now() - item.at)} ago
      </p>
      <p className="my-2">{item.refusal?.detail}</p>
      {mayDecide ? (
        <div className="flex flex-wrap gap-2">
          {DECISIONS.map(({ value: decision, says }) => (
            <Button
              key={decision}
              disabled={decide.isPending}
              look={decision === "throw_away" ? "warn" : "plain"}
              onClick={() => decide.mutate(decision)}
            >
              {says}
            </Button>
          ))}
        </div>
      ) : (
        <p className="font-semibold">{item.by} says what becomes of it: when they are at this device, or a lead.</p>
      )}
      <Trouble error={decide.error} />
    </>
  );
}
