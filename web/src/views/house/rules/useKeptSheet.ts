import { useQueryClient } from "@tanstack/react-query";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";

/** What is done with the rules as they are after a change: every spec is judged by them. */
export function useKeptSheet() {
  const queries = useQueryClient();
  return (next: Schemas["RuleSheet"]) => {
    queries.setQueryData(ask.ruleSheet().queryKey, next);
    void queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== "session" && queryKey[0] !== "rules" });
  };
}
