import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { figure } from "../../../parts/numbers";

interface NextTrialProps {
  panel: Schemas["PanelOut"];
  results: Schemas["PanelResults"];
  may: boolean;
}

/** Where the panel likes it, or how many are missing to say; and the trial worth making next, one press away. */
export function NextTrial({ panel, results, may }: NextTrialProps) {
  const go = useNavigate();
  const draft = useMutation({
    mutationFn: () => unwrap(client.POST("/api/panels/{panel_id}/next-trial", { params: { path: { panel_id: panel.id } } })),
    onSuccess: ({ spec }) => void go(`/specs/${spec}`),
  });
  const { liked, liked_words, next } = results;
  if (!next && !liked) return null;
  return (
    <section className="tray grid gap-2 p-4 md:p-5" aria-label="The trial worth making next">
      <h2 className="text-[20px]">The trial worth making next</h2>
      {next ? (
        <>
          <p className="text-[17px] font-bold">{next.words}</p>
          <p>{next.why}</p>
          {panel.next_how ? <p className="text-soft">{panel.next_how}</p> : null}
        </>
      ) : null}
      {liked ? (
        <p>
          Best liked at {figure(liked.sugar.value, 1)} sugar ({figure(liked.sugar.low, 1)} to {figure(liked.sugar.high, 1)}) and{" "}
          {figure(liked.acid.value, 2)} acid ({figure(liked.acid.low, 2)} to {figure(liked.acid.high, 2)}), inside what was tasted.
        </p>
      ) : (
        <p className="text-[15px] text-soft">{liked_words}</p>
      )}
      <Trouble error={draft.error} />
      {next && may ? (
        <div>
          <Button look="main" disabled={draft.isPending} onClick={() => draft.mutate()}>
            Draft it
          </Button>
        </div>
      ) : null}
    </section>
  );
}
