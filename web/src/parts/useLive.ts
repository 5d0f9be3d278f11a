import { keepPreviousData, type QueryKey, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useRef } from "react";
import { Problem } from "../api/client";

/** An answer that follows what is typed: the last one stands until the next is there; a refusal is told at its field, or as a whole. */
export function useLive<B, T>(key: QueryKey, body: B, ask: (body: B, signal: AbortSignal) => Promise<T>, fields: readonly string[]) {
  const asked = useDeferredValue(JSON.stringify(body));
  const found = useQuery({
    queryKey: [...key, asked],
    queryFn: ({ signal }) => ask(JSON.parse(asked) as B, signal),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const last = useRef(found.data);
  if (found.data) last.current = found.data;
  const problem = found.error instanceof Problem ? found.error : null;
  return {
    made: problem ? undefined : found.data,
    /** The last answer there was, whatever has become of the question. */
    last: last.current,
    fault: (field: string) => (problem?.where === field ? problem.detail : undefined),
    /** What is wrong and belongs to none of the fields. */
    elsewhere: problem && !fields.includes(problem.where) ? problem.detail : null,
  };
}
