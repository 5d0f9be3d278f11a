import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { ask } from "../api/queries";
import { Button } from "../parts/Button";
import { Trouble } from "../parts/Notice";
import { subscribe, subscribed } from "../sync/push";

/** On duty: a long wait that is over alerts this device with no screen open. */
export function Duty() {
  const queries = useQueryClient();
  const duty = useQuery(ask.duty());
  const device = useQuery({ queryKey: ["push", "device"], queryFn: subscribed, staleTime: 0 });
  const on = device.data ? (duty.data?.endpoints.includes(device.data.endpoint) ?? false) : false;
  const set = useMutation({
    mutationFn: async () => {
      const mine = on && device.data ? device.data : await subscribe(duty.data?.key ?? "");
      return unwrap(client.PUT("/api/duty", { body: { ...mine, on_duty: !on } }));
    },
    onSuccess: (next) => {
      queries.setQueryData(ask.duty().queryKey, next);
      void queries.invalidateQueries({ queryKey: ["push"] });
    },
  });
  return (
    <fieldset className="mb-6">
      <legend className="mb-2 text-soft">Alerts</legend>
      <Button look={on ? "main" : "plain"} aria-pressed={on} disabled={!duty.data || set.isPending} onClick={() => set.mutate()}>
        {on ? "On duty: this device is alerted" : "Alert this device when a long wait is over"}
      </Button>
      <Trouble error={set.error} />
    </fieldset>
  );
}
