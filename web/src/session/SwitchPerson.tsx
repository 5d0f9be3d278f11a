import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { ask } from "../api/queries";
import { Button } from "../parts/Button";
import { switchTo } from "../sync/who";
import { forgetAnswers } from "./freshQueries";
import { PinPad } from "./PinPad";

interface SwitchPersonProps {
  device: Schemas["EnrolledOut"];
  /** Who is at it now; 0 for nobody. */
  now: number;
  onSwitched: () => void;
}

const PERSONAL = ["duty", "instruments", "own", "held"];

/** Another person takes over on an enrolled device: their name, six digits. The house's pages stay as they are. */
export function SwitchPerson({ device, now, onSwitched }: SwitchPersonProps) {
  const queries = useQueryClient();
  const [who, setWho] = useState<Schemas["PersonRow"] | null>(null);
  const switching = useMutation({
    mutationFn: (pin: string) => (who ? switchTo(who, pin) : Promise.resolve(null)),
    onSuccess: (session) => {
      forgetAnswers(queries, (word) => PERSONAL.includes(word));
      if (session) queries.setQueryData(ask.session().queryKey, { ...session, kept: false });
      void queries.invalidateQueries({ queryKey: ["sums", "recent"] });
      onSwitched();
    },
  });
  const others = device.people.filter((person) => person.id !== now);
  if (who) {
    return (
      <div className="grid gap-3">
        <PinPad name={who.name} busy={switching.isPending} error={switching.error} onPin={(pin) => switching.mutate(pin)} />
        <Button
          look="quiet"
          onClick={() => {
            switching.reset();
            setWho(null);
          }}
        >
          Somebody else
        </Button>
      </div>
    );
  }
  return (
    <ul className="grid grid-cols-2 gap-2" aria-label="Who takes over">
      {others.map((person) => (
        <li key={person.id}>
          <Button className="min-h-16 w-full text-[18px]" disabled={!person.has_pin} onClick={() => setWho(person)}>
            {person.name}
            {person.has_pin ? null : <span className="text-[14px] font-normal">no PIN yet</span>}
          </Button>
        </li>
      ))}
    </ul>
  );
}
