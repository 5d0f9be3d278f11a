import { type ReactNode, useState } from "react";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { figure, GAP, noNumber, typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";

/** What an instrument shows of the figure that is asked for. */
export interface Live {
  name: string;
  value: number;
  steady: boolean;
}

export interface KeypadProps {
  open: boolean;
  title: string;
  about?: string;
  label: string;
  unit: string;
  /** Decimals of what an instrument shows; one where none are given. */
  decimals?: number | undefined;
  /** Under this name the half-typed figure survives a reload. */
  keepAs: string;
  start?: string;
  fault?: string | null;
  live?: Live | null;
  /** The instrument that shows figures here, while it shows none: its place is kept, so that nothing moves under a finger when it does. */
  awaited?: string | undefined;
  /** What stands over the digits: how it is measured. */
  children?: ReactNode;
  onClose: () => void;
  /** What is wrong with a figure, in words; nothing where it can be. */
  refuse?: (value: number) => string | null;
  onDone: (value: number) => void;
}

const PADS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", ".", "0", "⌫"] as const;

/** Big digits for wet hands; typing them on keys works the same, and so does taking what the instrument shows. */
export function Keypad({ open, title, about, children, keepAs, onClose, ...pad }: KeypadProps) {
  return (
    <Sheet open={open} onClose={onClose} title={title} {...(about ? { about } : {})}>
      {open ? (
        <>
          {children ? <div className="mb-4 flex flex-wrap gap-2">{children}</div> : null}
          <Pad key={keepAs} keepAs={keepAs} {...pad} />
        </>
      ) : null}
    </Sheet>
  );
}

type PadProps = Omit<KeypadProps, "open" | "title" | "about" | "children" | "onClose">;

function Pad({ label, unit, decimals, keepAs, start = "", fault = null, live = null, awaited, refuse = () => null, onDone }: PadProps) {
  const key = `ulsek.typing.${keepAs}`;
  const [text, setText] = useState(() => localStorage.getItem(key) ?? start);
  const [wrong, setWrong] = useState<string | null>(null);
  const put = (next: string) => {
    setText(next);
    setWrong(null);
    localStorage.setItem(key, next);
  };
  const keep = (value: number) => {
    const refused = refuse(value);
    if (refused) return setWrong(refused);
    localStorage.removeItem(key);
    onDone(value);
  };
  const done = () => {
    const value = typed(text);
    if (value === null) return setWrong(noNumber(text, "733", "Type what the scale shows."));
    keep(value);
  };
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        done();
      }}
    >
      {live ? (
        <Button size="bench" look={live.steady ? "main" : "plain"} disabled={!live.steady} onClick={() => keep(live.value)}>
          {live.steady ? "Take" : "Settling at"} {figure(live.value, decimals ?? 1)}
          {unit ? `${GAP}${unit}` : ""} · {live.name}
        </Button>
      ) : awaited ? (
        <Button size="bench" disabled>
          Waiting for the {awaited}
        </Button>
      ) : null}
      <Field
        size="bench"
        label={label}
        unit={unit}
        inputMode="decimal"
        value={text}
        onChange={put}
        fault={wrong ?? fault ?? undefined}
        autoFocus
      />
      <div className="grid grid-cols-3 gap-2">
        {PADS.map((pad) => (
          <button
            key={pad}
            type="button"
            tabIndex={-1}
            aria-label={pad === "⌫" ? "Wipe the last digit" : pad}
            onClick={() => put(pad === "⌫" ? text.slice(0, -1) : text + pad)}
            className="figures min-h-16 rounded-[14px] border border-line bg-quiet text-[28px] font-bold"
          >
            {pad}
          </button>
        ))}
      </div>
      <Button look={live?.steady ? "plain" : "main"} size="bench" type="submit">
        That is it
      </Button>
    </form>
  );
}
