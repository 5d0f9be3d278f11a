import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, expectOk } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";
import { signOut } from "../../../sync/who";

/** I leave this house. What I did stays under my name, and a lead can take me back. */
export function Leave() {
  const { house } = useSession();
  const queries = useQueryClient();
  const [sure, setSure] = useState(false);
  const leave = useMutation({
    mutationFn: async () => {
      await expectOk(client.POST("/api/own/leave"));
      await signOut();
    },
    onSuccess: () => queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" }),
  });
  return (
    <section className="tray p-5" aria-label="Leave the house">
      <h2 className="text-[20px]">Leave {house}</h2>
      <p className="mb-3 text-soft">You are signed out everywhere here. What you did stays under your name; a lead can take you back.</p>
      <Trouble error={leave.error} />
      {sure ? (
        <div className="flex flex-wrap gap-2">
          <Button look="warn" disabled={leave.isPending} onClick={() => leave.mutate()}>
            Yes, leave {house}
          </Button>
          <Button onClick={() => setSure(false)}>Stay</Button>
        </div>
      ) : (
        <Button look="warn" onClick={() => setSure(true)}>
          Leave …
        </Button>
      )}
    </section>
  );
}
