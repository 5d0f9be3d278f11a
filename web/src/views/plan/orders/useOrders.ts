import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, expectOk, type Schemas, unwrap } from "../../../api/client";

/** What can be done with orders: place one, take it back, take in what came. Each brings the plan and what stands in Stores anew. */
export function useOrders() {
  const queries = useQueryClient();
  const anew = {
    onSuccess: () => Promise.all([["plan"], ["stock"], ["materials"]].map((queryKey) => queries.invalidateQueries({ queryKey }))),
  };
  const place = useMutation({
    mutationFn: (body: Schemas["OrderIn"]) => unwrap(client.POST("/api/plan/orders", { body })),
    ...anew,
  });
  const drop = useMutation({
    mutationFn: (order_id: string) => expectOk(client.DELETE("/api/plan/orders/{order_id}", { params: { path: { order_id } } })),
    ...anew,
  });
  const takeIn = useMutation({
    mutationFn: ({ order_id, lines }: { order_id: string; lines: Schemas["ReceivedLineIn"][] }) =>
      unwrap(client.POST("/api/plan/orders/{order_id}/receipt", { params: { path: { order_id } }, body: { lines } })),
    ...anew,
  });
  return { place, drop, takeIn };
}
