import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";

/** This house goes out of its group; what was copied stays. */
export function LeaveGroup({ group }: { group: Schemas["GroupOut"] }) {
  const { house } = useSession();
  const queries = useQueryClient();
  const [sure, setSure] = useState(false);
  const leave = useMutation({
    mutationFn: () => unwrap(client.DELETE("/api/group")),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["own"] });
      void queries.invalidateQueries({ queryKey: ["session"] });
    },
  });
  return (
    <section className="tray p-5" aria-label="Leave the group">
      <h2 className="text-[20px]">Leave {group.name}</h2>
      <p className="mb-3 text-soft">
        Whoever leads {house} only with the group leads it no more. Specs that were copied stay; those that follow another house get no
        newer version.
      </p>
      <Trouble error={leave.error} />
      {sure ? (
        <div className="flex flex-wrap gap-2">
          <Button look="warn" disabled={leave.isPending} onClick={() => leave.mutate()}>
            Yes, take {house} out
          </Button>
          <Button onClick={() => setSure(false)}>Stay in it</Button>
        </div>
      ) : (
        <Button look="warn" onClick={() => setSure(true)}>
          Leave …
        </Button>
      )}
    </section>
  );
}
