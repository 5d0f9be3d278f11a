import { useMutation } from "@tanstack/react-query";
import { client, expectOk } from "../../api/client";

/** The code of the question that a house answers once, and what each answer to it says. */
const ASKED = "on_the_shelf";
const MEANT: Readonly<Record<string, { name: string; material: string }>> = {
  anhydrous: { name: "citric_acid", material: "citric_acid" },
  monohydrate: { name: "citric_acid", material: "citric_acid_monohydrate" },
};

/** Keeps for the house what stands on its shelf, as soon as the question about it is answered. */
export function useShelf() {
  const keep = useMutation({
    mutationFn: (meant: { name: string; material: string }) => expectOk(client.PUT("/api/house/shelf", { body: meant })),
  });
  return {
    error: keep.error,
    answered: (code: string, word: string) => {
      const meant = code === ASKED ? MEANT[word] : undefined;
      if (meant) keep.mutate(meant);
    },
  };
}
