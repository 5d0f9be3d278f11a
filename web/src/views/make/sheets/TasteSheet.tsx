import { useState } from "react";
import { USUAL } from "../../../api/rules";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import type { SheetProps } from "./sheetProps";

const SENSES = ["taste", "look", "smell"] as const;
const VERDICTS = { right: "As it should be", weak: "Too weak", strong: "Too strong", odd: "Something is odd" } as const;
type Verdict = keyof typeof VERDICTS;

/** Look, smell and taste, in the spec's own words; too strong or too weak is answered with amounts. */
export function TasteSheet({ open, onClose, run, now, bench }: SheetProps) {
  const [sense, setSense] = useState<(typeof SENSES)[number]>("taste");
  const [share, setShare] = useState(String(USUAL.taste_percent));
  const [text, setText] = useState("");
  const [unread, setUnread] = useState(false);
  const by = typed(share);
  const step = now.step ?? run.state.steps.findLast((item) => item.state === "done");
  const last = run.state.tastes.at(-1);
  const say = (verdict: Verdict) => {
    if (!step) return;
    const asks = verdict === "weak" || verdict === "strong";
    if (asks && by === null) return setUnread(true);
    const measured = asks && by !== null ? { share: by / 100 } : {};
    void bench.record(["tasted", { step: step.id, sense, verdict, text: text.trim(), ...measured }]);
    setText("");
  };
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="Look, smell, taste"
      about={step?.check ? `Done when: ${step.check}.` : (step?.title ?? "")}
      wide
    >
      <div className="grid gap-4 text-[20px]">
        <fieldset className="flex flex-wrap gap-2" aria-label="With what">
          {SENSES.map((item) => (
            <Button key={item} look={item === sense ? "main" : "plain"} aria-pressed={item === sense} onClick={() => setSense(item)}>
              {item}
            </Button>
          ))}
        </fieldset>
        <Field label="In your own words, if you like" value={text} onChange={setText} />
        <div className="grid gap-3 sm:grid-cols-2">
          {(Object.keys(VERDICTS) as Verdict[]).map((verdict) => (
            <Button
              key={verdict}
              size="bench"
              look={verdict === "right" ? "main" : verdict === "odd" ? "warn" : "plain"}
              onClick={() => say(verdict)}
            >
              {VERDICTS[verdict]}
            </Button>
          ))}
        </div>
        <Field
          label="Weak or strong by about, of what it should be"
          unit="%"
          inputMode="decimal"
          value={share}
          onChange={setShare}
          fault={unread && by === null ? `Write figures, such as ${USUAL.taste_percent}.` : undefined}
        />
        {last ? (
          <p
            role="status"
            className={`rounded-[14px] border-l-[9px] bg-quiet p-4 leading-snug ${last.verdict === "right" ? "border-good" : "border-warn"}`}
          >
            <b>{VERDICTS[last.verdict as Verdict]}.</b> {last.advice}
          </p>
        ) : null}
      </div>
    </Sheet>
  );
}
