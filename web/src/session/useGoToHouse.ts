import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { ask } from "../api/queries";
import { goToHouse } from "../sync/who";
import { allButSession, forgetAnswers } from "./freshQueries";

/** Goes on in another house that one is in: everything asked for is asked anew there, and it begins at its shift. */
export function useGoToHouse(onGone: () => void = () => undefined) {
  const queries = useQueryClient();
  const go = useNavigate();
  return useMutation({
    mutationFn: goToHouse,
    onSuccess: (next) => {
      forgetAnswers(queries, allButSession);
      queries.setQueryData(ask.session().queryKey, { ...next, kept: false });
      onGone();
      void go("/shift");
    },
  });
}
