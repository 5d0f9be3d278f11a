import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { client, onPasswordWanted, unwrap } from "../api/client";
import { Button } from "../parts/Button";
import { DigitsField } from "../parts/DigitsField";
import { Field } from "../parts/Field";
import { Trouble } from "../parts/Notice";
import { Sheet } from "../parts/Sheet";
import { asksForDigits, beyondAsking } from "../parts/secondFactor";

/** Asks for the password where a PIN does not reach; what was asked for is done as soon as it is right. */
export function PasswordAsk() {
  const [open, setOpen] = useState(false);
  const [password, setPassword] = useState("");
  const [digits, setDigits] = useState("");
  const [asked, setAsked] = useState(false);
  const answer = useRef<((right: boolean) => void) | null>(null);
  const close = (right: boolean) => {
    answer.current?.(right);
    answer.current = null;
    setPassword("");
    setDigits("");
    setAsked(false);
    setOpen(false);
  };
  useEffect(() => {
    onPasswordWanted(() => {
      answer.current?.(false);
      setOpen(true);
      return new Promise((told) => {
        answer.current = told;
      });
    });
    return () => onPasswordWanted(null);
  }, []);
  const confirm = useMutation({
    mutationFn: () => unwrap(client.POST("/api/session/confirm", { body: { password, code: digits } })),
    onError: (error) => setAsked((before) => before || asksForDigits(error)),
    onSuccess: () => close(true),
  });
  return (
    <Sheet
      open={open}
      onClose={() => close(false)}
      title="Your password, please"
      about="A PIN is enough for making. This changes what others make."
    >
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          confirm.mutate();
        }}
      >
        <Field
          label="Password"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={setPassword}
          autoFocus
          required
        />
        {asked ? <DigitsField value={digits} onChange={setDigits} /> : null}
        <Trouble error={beyondAsking(confirm.error)} />
        <Button look="main" type="submit" disabled={confirm.isPending}>
          Go on
        </Button>
      </form>
    </Sheet>
  );
}
