import { useCallback, useEffect, useRef } from "react";
import { client, expectOk, Problem } from "../../api/client";
import { Button } from "../../parts/Button";
import { Notice } from "../../parts/Notice";
import { figure } from "../../parts/numbers";
import { AnswerView } from "./AnswerView";
import { AskField } from "./AskField";
import { SendTo } from "./SendTo";
import { lacking, type Sum, useAnswer } from "./useSum";

interface SumSheetProps {
  sum: Sum;
  figures: Record<string, string>;
  onFigures: (figures: Record<string, string>) => void;
  onBack: () => void;
  onClose: () => void;
}

const USED_MS = 3000;

/** One sum: two or three figures in, the answer large, with its picture, its working and its error. */
export function SumSheet({ sum, figures, onFigures, onBack, onClose }: SumSheetProps) {
  const worked = useAnswer(sum, figures);
  const missing = lacking(sum, figures);
  const problem = worked.error instanceof Problem ? worked.error : null;
  const put = (name: string) => (value: string) => onFigures({ ...figures, [name]: value });
  const answer = missing.length === 0 && !problem ? worked.data : undefined;
  const here = answer?.here ?? false;
  const first = answer?.answer.figures[0];
  const settled = answer && !worked.isPlaceholderData ? JSON.stringify(figures) : "";
  // What was shown for a moment, or was sent somewhere, was used: it goes among this person's last sums, once.
  const kept = useRef("");
  const used = useCallback(() => {
    if (!settled || here || kept.current === settled) return;
    kept.current = settled;
    const asked = client.POST("/api/sums/{name}/kept", { params: { path: { name: sum.name } }, body: { figures: JSON.parse(settled) } });
    // With the site away it is one of the last sums no more than on this device: nothing that needs saying here.
    expectOk(asked).catch(() => undefined);
  }, [settled, here, sum.name]);
  useEffect(() => {
    const timer = setTimeout(used, USED_MS);
    return () => clearTimeout(timer);
  }, [used]);
  const main = sum.asks.filter((ask) => !ask.aside);
  const aside = sum.asks.filter((ask) => ask.aside);
  const fields = (asks: Sum["asks"]) =>
    asks.map((ask) => (
      <AskField
        key={ask.name}
        ask={ask}
        value={figures[ask.name] ?? ""}
        onChange={put(ask.name)}
        fault={problem?.where === ask.name ? problem.detail : undefined}
        autoFocus={ask === main[0]}
      />
    ));
  return (
    <div className="grid gap-6 md:grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)]">
      {first ? (
        <p className="sticky -top-4 z-10 -mx-4 border-b border-rim bg-enamel px-4 py-2 text-[20px] font-bold md:hidden" aria-hidden="true">
          <span className="mr-2 font-normal text-soft">{first.name}</span>
          <span className="worked font-head text-[32px]">{figure(first.value)}</span> {first.unit}
        </p>
      ) : null}
      <div className="grid content-start gap-3">
        {fields(main)}
        {aside.length ? (
          <details open={aside.some((ask) => figures[ask.name])} className="rounded-xl border border-line px-3 py-1">
            <summary className="min-h-11 cursor-pointer py-2 text-[15px] font-semibold text-rim">
              Also counted: {aside.map((ask) => ask.label.charAt(0).toLowerCase() + ask.label.slice(1)).join(", ")}
            </summary>
            <div className="grid gap-3 pb-3">{fields(aside)}</div>
          </details>
        ) : null}
        <div className="flex flex-wrap gap-2">
          <Button onClick={onBack}>← All sums</Button>
          {Object.values(figures).some(Boolean) ? (
            <Button look="quiet" onClick={() => onFigures({})}>
              Wipe the figures
            </Button>
          ) : null}
        </div>
      </div>
      <div className="grid content-start gap-4" aria-live="polite">
        {missing.length ? (
          <p className="rounded-xl bg-quiet p-4 text-[18px] text-soft">
            Still wanted: <b className="text-ink">{missing.join(", ")}</b>. The rest is kept.
          </p>
        ) : null}
        {problem ? (
          <Notice severity="stop" live>
            {problem.detail}
          </Notice>
        ) : null}
        {answer ? <AnswerView sum={sum} figures={figures} answer={answer.answer} here={answer.here} /> : null}
        {answer ? <SendTo sum={sum} figures={figures} answer={answer.answer} here={answer.here} onUsed={used} onClose={onClose} /> : null}
      </div>
    </div>
  );
}
