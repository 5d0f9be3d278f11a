import { useState } from "react";
import { Link } from "react-router";
import { Button } from "../parts/Button";
import { Sheet } from "../parts/Sheet";
import { chooseTheme, chosenTheme, type Theme } from "../parts/theme";
import { Duty } from "./Duty";
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
