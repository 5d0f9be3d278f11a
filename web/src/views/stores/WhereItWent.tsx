import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../api/client";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { NotFetched, Shape, Trouble } from "../../parts/Notice";
import { Sheet } from "../../parts/Sheet";
import { canLead, useSession } from "../../session/session";
import { Trace } from "../lots/Trace";

/** Which bottles hold something of a delivery; and, where it is bad, the recall of all of them. */
export function WhereItWent({ item, onClose }: { item: Schemas["StockOut"] | null; onClose: () => void }) {
  return (
    <Sheet
      open={item !== null}
      onClose={onClose}
      wide
      title={`Where ${item?.product.toLowerCase() ?? "it"} went`}
      about={item?.supplier ?? ""}
    >
      {item ? <Reached item={item} /> : null}
    </Sheet>
  );
}

function Reached({ item }: { item: Schemas["StockOut"] }) {
  const session = useSession();
  const queries = useQueryClient();
  const trace = useQuery(ask.crateTrace(item.id));
  const [why, setWhy] = useState("");
  const recall = useMutation({
    mutationFn: () => unwrap(client.POST("/api/stock/{stock_id}/recall", { params: { path: { stock_id: item.id } }, body: { why } })),
    onSuccess: () => void queries.invalidateQueries(),
  });
  return (
    <div className="grid gap-4">
      {trace.isPending ? <Shape rows={3} /> : <Trace nodes={trace.data ?? []} none="Into nothing yet." />}
      <NotFetched questions={[trace]} />
      <Trouble error={recall.error} />
      {recall.data ? (
        <p role="status" className="font-bold text-warn">
          Recalled: {recall.data.lots.length ? recall.data.lots.join(", ") : "no bottle held it"}
          {recall.data.runs.length ? `, and on the bench ${recall.data.runs.join(", ")}` : ""}. Each says so now.
        </p>
      ) : canLead(session) ? (
        <form
          className="flex flex-wrap items-end gap-3 border-t border-line pt-3"
          onSubmit={(event) => {
            event.preventDefault();
            recall.mutate();
          }}
        >
          <Field label="It is bad, because" value={why} onChange={setWhy} className="min-w-60 flex-1" />
          <Button look="warn" type="submit" disabled={recall.isPending || !why.trim()}>
            Recall it and everything it reached
          </Button>
        </form>
      ) : null}
    </div>
  );
}
