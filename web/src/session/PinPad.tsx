import { useEffect, useRef, useState } from "react";
import { Button } from "../parts/Button";
import { Trouble } from "../parts/Notice";

const DIGITS = ["1", "2", "3", "4", "5", "6", "7", "8", "9"] as const;
const LENGTH = 6;

interface PinPadProps {
  /** Whose PIN is wanted. */
  name: string;
  busy: boolean;
  error: unknown;
  onPin: (pin: string) => void;
}

/** Six digits, by touch or by keys. The sixth is the end of it. */
export function PinPad({ name, busy, error, onPin }: PinPadProps) {
  const [pin, setPin] = useState("");
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (error) setPin("");
    if (!busy) box.current?.focus();
  }, [error, busy]);
  const put = (next: string) => {
    const digits = next.replace(/\D/g, "").slice(0, LENGTH);
    setPin(digits);
    if (digits.length === LENGTH && pin.length < LENGTH && !busy) onPin(digits);
  };
  return (
    <div className="grid gap-3">
      <label className="grid gap-1 text-soft">
        PIN of {name}
        <input
          ref={box}
          type="password"
          inputMode="numeric"
          autoComplete="one-time-code"
          value={pin}
          maxLength={LENGTH}
          onChange={(event) => put(event.target.value)}
          className="figures h-16 w-full rounded-xl border border-line bg-enamel px-4 text-center text-[34px] tracking-[0.5em] text-ink"
        />
      </label>
      <Trouble error={error} />
      <div className="grid grid-cols-3 gap-2">
        {DIGITS.map((digit) => (
          <PadKey key={digit} word={digit} disabled={busy} onPress={() => put(pin + digit)} />
        ))}
        <Button look="quiet" className="min-h-16" disabled={busy || pin === ""} onClick={() => setPin("")}>
          Wipe
        </Button>
        <PadKey word="0" disabled={busy} onPress={() => put(`${pin}0`)} />
      </div>
    </div>
  );
}

function PadKey({ word, disabled, onPress }: { word: string; disabled: boolean; onPress: () => void }) {
  return (
    <button
      type="button"
      tabIndex={-1}
      disabled={disabled}
      onClick={onPress}
      className="figures min-h-16 rounded-[14px] border border-line bg-quiet text-[28px] font-bold disabled:text-soft"
    >
      {word}
    </button>
  );
}
