import { useMutation } from "@tanstack/react-query";
import { type KeyboardEvent, type RefObject, useDeferredValue, useState } from "react";
import { client, type SpecStep, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { useMaterials } from "../../../parts/useMaterials";
import { fromHereOr } from "../../../sync/core";

const MOST = 6;
const LAST_WORDS = /([\p{L}][\p{L}\s'’-]*)$/u;

interface StepLineProps {
  box: RefObject<HTMLInputElement | null>;
  onStep: (step: Partial<SpecStep>) => void;
  /** What is typed goes in as words alone, where it cannot be read as a step. */
  onWords: (text: string) => void;
}

/** A step as people type it: "steep birch tips 9 g 25 min 72 C" becomes a typed step, and the text stays with it. */
export function StepLine({ box, onStep, onWords }: StepLineProps) {
  const [text, setText] = useState("");
  const [quiet, setQuiet] = useState(false);
  const typed = useDeferredValue(LAST_WORDS.exec(text)?.[1]?.trim().split(/\s+/).slice(-2) ?? []);
  const wanted = typed.at(-1) ?? "";
  const found = useMaterials(typed.length > 1 ? typed.join(" ") : wanted, wanted.length > 1 && !quiet);
  const offers = wanted.length > 1 && !quiet ? (found.data ?? []).slice(0, MOST) : [];
  const send = useMutation({
    mutationFn: () => fromHereOr(() => unwrap(client.POST("/api/step-line", { body: { text } })), "step_line", text),
    onSuccess: (read) => {
      setText("");
      onStep(read.step as Partial<SpecStep>);
      box.current?.focus();
    },
  });
  const complete = (name: string) => {
    // The longest ending of what is typed that the name begins with is what the name stands for.
    const words = text.split(/\s+/);
    const from = [2, 1].find((n) => name.toLowerCase().startsWith(words.slice(-n).join(" ").toLowerCase())) ?? 1;
    setText(`${[...words.slice(0, -from), name.split(",")[0]?.toLowerCase()].join(" ")} `);
    setQuiet(true);
    box.current?.focus();
  };
  const key = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Tab" && !event.shiftKey && offers[0] && !text.endsWith(" ")) {
      event.preventDefault();
      complete(offers[0].name);
    } else if (event.key === "Escape") {
      setQuiet(true);
      event.currentTarget.blur();
    }
  };
  return (
    <form
      className="grid gap-2 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) send.mutate();
      }}
    >
      <div className="flex items-end gap-2">
        <label className="grid flex-1 gap-1 text-[14px] text-soft">
          Next step, as you would say it
          <input
            ref={box}
            value={text}
            autoComplete="off"
            onChange={(event) => {
              setText(event.target.value);
              setQuiet(false);
              send.reset();
            }}
            onKeyDown={key}
            placeholder="steep birch tips 9 g 25 min 72 C"
            className="h-12 w-full rounded-xl border border-line bg-enamel px-3 text-[17px] text-ink"
          />
        </label>
        <Button look="main" type="submit" disabled={send.isPending || !text.trim()}>
          Put it in
        </Button>
      </div>
      {offers.length ? (
        <ul aria-label="In Stores" className="flex flex-wrap gap-1.5">
          {offers.map((item, place) => (
            <li key={item.key}>
              <button
                type="button"
                onClick={() => complete(item.name)}
                className="min-h-11 rounded-full border border-line bg-quiet px-3 text-[15px] hover:border-rim"
              >
                {item.name}
                {place === 0 ? <span className="figures ml-2 text-[14px] text-soft">Tab</span> : null}
              </button>
            </li>
          ))}
        </ul>
      ) : null}
      {send.error ? (
        <div className="flex flex-wrap items-center gap-3">
          <div className="flex-1">
            <Trouble error={send.error} />
          </div>
          <Button
            onClick={() => {
              onWords(text);
              setText("");
              send.reset();
            }}
          >
            Keep it as words
          </Button>
        </div>
      ) : null}
    </form>
  );
}
