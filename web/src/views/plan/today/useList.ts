import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { client, expectOk, type Schemas, unwrap } from "../../../api/client";
import type { Line } from "./lines";

/** What can be done with the list: begin a batch scaled to a line, decide about a line, say who is away. Each brings the list anew. */
export function useList() {
  const go = useNavigate();
  const queries = useQueryClient();
  const anew = { onSettled: () => queries.invalidateQueries({ queryKey: ["plan"] }) };
  const begin = useMutation({
    mutationFn: ({ line, spec, id }: { line: Line; spec: string; id: string }) =>
      unwrap(client.POST("/api/runs", { body: { id, spec, volume_ml: line.makes_ml, chosen: {}, rehearsal: false } })),
    onSuccess: (run) => void go(`/make/${run.id}`),
    ...anew,
  });
  const decide = useMutation({
    mutationFn: ({ spec, wish }: { spec: string; wish: Schemas["ListWishIn"] | null }) => {
      const params = { params: { path: { spec_id: spec } } };
      return expectOk(
        wish ? client.PATCH("/api/plan/today/{spec_id}", { ...params, body: wish }) : client.DELETE("/api/plan/today/{spec_id}", params),
      );
    },
    ...anew,
  });
  const goAway = useMutation({
    mutationFn: (person: number) =>
      unwrap(client.POST("/api/plan/people/{person_id}/away", { params: { path: { person_id: person } }, body: {} })),
    ...anew,
  });
  const comeBack = useMutation({
    mutationFn: (away: number) => expectOk(client.DELETE("/api/plan/away/{away_id}", { params: { path: { away_id: away } } })),
    ...anew,
  });
  return { begin, decide, goAway, comeBack };
}
