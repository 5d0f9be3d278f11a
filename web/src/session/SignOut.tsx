import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button } from "../parts/Button";
import { signOut } from "../sync/who";

/** Closes this device, at once and without the network too. */
export function SignOut() {
  const queries = useQueryClient();
  const out = useMutation({
    mutationFn: async () => {
      await signOut();
      queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
    },
  });
  return (
    <Button disabled={out.isPending} onClick={() => out.mutate()}>
      Sign out
    </Button>
  );
}
