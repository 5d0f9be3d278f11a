import { useMutation } from "@tanstack/react-query";
import { client, expectOk } from "../../api/client";

/** The code of the question that a house answers once. */
const ASKED = "on_the_shelf";

/** Keeps for the house what stands on its shelf, as soon as the question about it is answered. */
export function useShelf() {
  const keep = useMutation({
    mutationFn: (answer: string) => expectOk(client.PUT("/api/house/shelf", { body: { answer } })),
  });
  return {
    error: keep.error,
    answered: (code: string, word: string) => {
      if (code === ASKED && word) keep.mutate(word);
    },
  };
}
