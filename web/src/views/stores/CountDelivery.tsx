import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, type Schemas, unwrap } from "../../api/client";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Trouble } from "../../parts/Notice";
import { figure, GAP, noNumber, typed } from "../../parts/numbers";
import { Sheet } from "../../parts/Sheet";
import { moment } from "../../parts/say";
import { useSession } from "../../session/session";

type Stock = Schemas["StockOut"];

const DONE: Record<string, (body: Record<string, unknown>) => string> = {
  counted: (body) => `${figure(Number(body.left_g), 0)}${GAP}g counted`,
  tossed: (body) => `tossed, ${String(body.reason)}`,
  moved: (body) => `now in ${String(body.place)}`,
};

/** What is really left of a delivery, or that it is tossed; the count of the books before is kept. */
export function CountDelivery({ item, onClose }: { item: Stock | null; onClose: () => void }) {
  return (
    <Sheet
      open={item !== null}
      onClose={onClose}
      title={item ? `Count ${item.product.toLowerCase()}` : "Count"}
      about={item ? `${item.code}, ${item.supplier}. The books say ${figure(Number(item.remaining_g), 0)}${GAP}g.` : ""}
    >
      {item ? <Counting item={item} onClose={onClose} /> : null}
    </Sheet>
  );
}

function Counting({ item, onClose }: { item: Stock; onClose: () => void }) {
  const { zone } = useSession();
  const queries = useQueryClient();
  const [left, setLeft] = useState("");
  const [reason, setReason] = useState("");
  const [fault, setFault] = useState<string>();
  const events = useQuery(ask.stockEvents(item.id));
  const change = useMutation({
    mutationFn: (body: Schemas["StockActionIn"]) =>
      unwrap(client.POST("/api/stock/{stock_id}/events", { params: { path: { stock_id: item.id } }, body })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["stock"] });
      onClose();
    },
  });
  const at = (where: string) => (change.error instanceof Problem && change.error.where.endsWith(where) ? change.error.detail : undefined);
  const elsewhere = at("left_g") || at("reason") ? null : change.error;
  return (
    <div className="grid gap-5">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const left_g = typed(left);
          if (left_g === null) return setFault(noNumber(left, "850", "Type what the scale shows."));
          change.mutate({ kind: "counted", body: { left_g } });
        }}
      >
        <Field
          label="What is left, without its tub"
          unit="g"
          size="bench"
          inputMode="decimal"
          value={left}
          onChange={(next) => {
            setLeft(next);
            setFault(undefined);
          }}
          fault={fault ?? at("left_g")}
          autoFocus
        />
        <Button look="main" type="submit" disabled={change.isPending}>
          That is left
        </Button>
      </form>
      {item.gone_at ? null : (
        <form
          className="flex flex-wrap items-end gap-3 border-t border-line pt-4"
          onSubmit={(event) => {
            event.preventDefault();
            change.mutate({ kind: "tossed", body: { reason } });
          }}
        >
          <Field
            label={`Toss all of ${item.product}, because`}
            value={reason}
            onChange={setReason}
            fault={at("reason")}
            className="min-w-60 flex-1"
          />
          <Button look="warn" type="submit" disabled={change.isPending || !reason.trim()}>
            Toss it
          </Button>
        </form>
      )}
      <Trouble error={elsewhere} />
      {events.data?.length ? (
        <ul className="border-t border-line pt-3 text-[15px]" aria-label="What was counted">
          {events.data.map((event) => (
            <li key={event.at} className="py-1">
              {moment(event.at, zone)}, {event.by}: {figure(Number(event.body.before_g), 0)}
              {GAP}g in the books, {DONE[event.kind]?.(event.body)}
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
