import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";

/** Takes deliveries in together, all or none, and goes to where they stand. */
export function useReceiveMany() {
  const queries = useQueryClient();
  const go = useNavigate();
  return useMutation({
    mutationFn: (items: Schemas["PackDeliveryIn"][]) => unwrap(client.POST("/api/stock/many", { body: { items } })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["stock"] });
      void go("/stores");
    },
  });
}
