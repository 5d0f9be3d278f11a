import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Problem } from "../../../api/client";

/** Something that is done to fruit: afterwards every part of the place is asked anew. `fault` says what is wrong at a field. */
export function useAct<T, V = void>(act: (given: V) => Promise<T>, onDone?: (done: T) => void) {
  const queries = useQueryClient();
  const mutation = useMutation({
    mutationFn: act,
    onSuccess: (done) => {
      void queries.invalidateQueries({ queryKey: ["citrus"] });
      void queries.invalidateQueries({ queryKey: ["stock"] });
      onDone?.(done);
    },
  });
  const problem = mutation.error instanceof Problem ? mutation.error : null;
  const fault = (where: string) => (problem?.where.split("/").includes(where) ? problem.detail : undefined);
  return { ...mutation, fault };
}
