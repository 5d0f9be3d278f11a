import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, unwrap } from "../api/client";
import { ask } from "../api/queries";
import { Button } from "../parts/Button";
import { Trouble } from "../parts/Notice";
import { Sheet } from "../parts/Sheet";
import { chooseTheme, chosenTheme, type Theme } from "../parts/theme";
import { Houses } from "./Houses";
import { SignOut } from "./SignOut";
import { canLead, useSession } from "./session";

const THEMES: readonly { value: Theme; label: string }[] = [
  { value: "day", label: "Day" },
  { value: "night", label: "Night" },
  { value: "system", label: "As this device" },
];

/** Who I am here, day or night, and the way out. */
export function Me({ open, onClose }: { open: boolean; onClose: () => void }) {
  const session = useSession();
  const [theme, setTheme] = useState(chosenTheme);
  return (
    <Sheet open={open} onClose={onClose} title={session.name} about={`${session.role} at ${session.house}`}>
      <fieldset className="mb-6">
        <legend className="mb-2 text-soft">Light</legend>
        <div className="flex flex-wrap gap-2">
          {THEMES.map((item) => (
            <Button
              key={item.value}
              look={theme === item.value ? "main" : "plain"}
              aria-pressed={theme === item.value}
              onClick={() => {
                chooseTheme(item.value);
                setTheme(item.value);
              }}
            >
              {item.label}
            </Button>
          ))}
        </div>
      </fieldset>
      <Duty />
      <Houses onClose={onClose} />
      <div className="flex flex-wrap gap-2">
        <Link
          to="/house"
          onClick={onClose}
          className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
        >
          {canLead(session) ? "The house, its people and devices" : "Password, PIN, sessions"}
        </Link>
        <SignOut />
      </div>
    </Sheet>
  );
}

const ADDRESS = "ulsek.push";

/** This device's own address at the house's push service, made once. */
function addressAt(service: string): string {
  const known = localStorage.getItem(ADDRESS);
  if (known?.startsWith(`${service}/`)) return known;
  const made = `${service}/push/${crypto.randomUUID()}`;
  localStorage.setItem(ADDRESS, made);
  return made;
}

/** On duty: a long wait that is over alerts this device with no screen open. */
function Duty() {
  const queries = useQueryClient();
  const duty = useQuery(ask.duty());
  const mine = duty.data ? addressAt(duty.data.service) : "";
  const on = duty.data?.endpoints.includes(mine) ?? false;
  const set = useMutation({
    mutationFn: () => unwrap(client.PUT("/api/duty", { body: { endpoint: mine, on_duty: !on } })),
    onSuccess: (next) => queries.setQueryData(ask.duty().queryKey, next),
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
