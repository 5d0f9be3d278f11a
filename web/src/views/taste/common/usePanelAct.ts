import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";

/** Something that is done to a panel and answers with it as it is then. */
export function usePanelAct<V = void>(act: (given: V) => Promise<Schemas["PanelOut"]>, onDone?: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: (panel) => {
      queries.setQueryData(ask.panel(panel.id).queryKey, panel);
      void queries.invalidateQueries({ queryKey: ["panels"] });
      onDone?.();
    },
  });
}
