import { useState } from "react";
import { SCORE } from "../../../api/rules";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { typed } from "../../../parts/numbers";
import type { Answer } from "../../../sync/seat";
import type { PaperPage } from "./sheetPages";

interface PaperAnswerProps {
  page: PaperPage;
  attributes: readonly string[];
  onChange: (answer: Answer) => void;
}

/** The marks that are numbers; what is none yet is left out, and the site says which is missing. */
const marksOf = (texts: Record<string, string>) =>
  Object.fromEntries(Object.entries(texts).flatMap(([name, text]) => (typed(text) === null ? [] : [[name, typed(text) ?? 0]])));

/** One answer of a paper sheet, as it is typed in. */
export function PaperAnswer({ page, attributes, onChange }: PaperAnswerProps) {
  const [text, setText] = useState("");
  const [marks, setMarks] = useState<Record<string, string>>({});
  const put = (value: string, answer: Answer) => {
    setText(value);
    onChange(answer);
  };
  const label = `${page.turn}. ${page.asks === "liking" || page.asks === "attributes" ? "glass" : "glasses"} ${page.codes.join(", ")}`;
  if (page.asks === "liking") {
    return (
      <Field
        label={`${label}, ${SCORE.least} to ${SCORE.most}`}
        inputMode="decimal"
        value={text}
        onChange={(value) => put(value, { score: typed(value) })}
      />
    );
  }
  if (page.asks === "ranking") {
    return (
      <Field
        label={`${label}: the best first, with blanks`}
        value={text}
        onChange={(value) => put(value, { order: value.trim().split(/[\s,]+/) })}
      />
    );
  }
  if (page.asks === "attributes") {
    return (
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        {attributes.map((key) => (
          <Field
            key={key}
            label={`${page.codes[0]}: ${key}, box 1 to 5`}
            inputMode="numeric"
            value={marks[key] ?? ""}
            onChange={(value) => {
              const next = { ...marks, [key]: value };
              setMarks(next);
              onChange({ marks: marksOf(next) });
            }}
          />
        ))}
      </div>
    );
  }
  const options =
    page.asks === "same"
      ? [
          { value: "same", label: "the same" },
          { value: "different", label: "different" },
        ]
      : page.codes.map((code) => ({ value: code, label: code }));
  return (
    <div className="flex items-center gap-3">
      <span className="text-soft">{label}</span>
      <Choice
        label={label}
        value={text}
        onChange={(value) => put(value, page.asks === "same" ? { same: value === "same" } : { code: value })}
        options={options}
      />
    </div>
  );
}
