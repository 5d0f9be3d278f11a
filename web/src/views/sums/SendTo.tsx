import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, unwrap } from "../../api/client";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { figure, GAP } from "../../parts/numbers";
import { canMake, useSession } from "../../session/session";
import { makeEvent } from "../../sync/event";
import { enqueue } from "../../sync/queue";
import { keptRun } from "../../sync/runs";
import { linkTo } from "./link";
import type { Answer, Sum } from "./useSum";

interface SendToProps {
  sum: Sum;
  figures: Record<string, string>;
  answer: Answer;
  here: boolean;
  /** The answer goes somewhere. */
  onUsed: () => void;
  onClose: () => void;
}

/** Where an answer goes: a spec's next step, a batch that runs, a label, a link, a note. */
export function SendTo({ sum, figures, answer, here, onUsed, onClose }: SendToProps) {
  const session = useSession();
  const go = useNavigate();
  const [open, setOpen] = useState<"spec" | "batch" | null>(null);
  const [said, setSaid] = useState("");
  const [find, setFind] = useState("");
  const specs = useQuery({ ...ask.library({ find }), enabled: open === "spec" });
  const runs = useQuery({ ...ask.openRuns(), enabled: open === "batch" });
  const words = `${sum.about}: ${answer.figures
    .slice(0, 3)
    .map((item) => `${item.name} ${figure(item.value)}${GAP}${item.unit}`.trim())
    .join(", ")}`;
  const copy = (text: string, word: string) => {
    onUsed();
    return navigator.clipboard.writeText(text).then(
      () => setSaid(word),
      () => setSaid(text),
    );
  };
  const toBatch = async (id: string) => {
    const run = await unwrap(client.GET("/api/runs/{run_id}", { params: { path: { run_id: id } } })).catch(
      async () => (await keptRun(id))?.run,
    );
    if (!run) return setSaid("That batch is not known on this device.");
    onUsed();
    try {
      await enqueue(id, [{ event: await makeEvent(["noted", { text: words }], run.lamport + 1), what: `a note: ${words}` }]);
    } catch {
      return setSaid(`This device has no room left to keep that. Write it into the batch by hand: ${words}`);
    }
    void go(`/make/${id}`);
    onClose();
  };
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap gap-2">
        {answer.step && session.role === "lead" ? (
          <Button onClick={() => setOpen(open === "spec" ? null : "spec")}>To a spec…</Button>
        ) : null}
        {canMake(session) ? <Button onClick={() => setOpen(open === "batch" ? null : "batch")}>To a batch…</Button> : null}
        {answer.parts.length && !here ? (
          <a
            href={`/api/sums/${sum.name}/label.pdf?figures=${encodeURIComponent(JSON.stringify(figures))}`}
            target="_blank"
            rel="noreferrer"
            onClick={onUsed}
            className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
          >
            Label
          </a>
        ) : null}
        <Button onClick={() => void copy(linkTo({ name: sum.name, figures }), "The link is copied.")}>Copy link</Button>
        <Button onClick={() => void copy(words, "The answer is copied.")}>Copy as a note</Button>
      </div>
      {open === "spec" ? <Field label="Which spec?" value={find} onChange={setFind} autoFocus /> : null}
      {open === "spec" ? (
        <ul className="max-h-60 overflow-auto rounded-xl border border-line">
          {specs.data?.items.map((item) => (
            <li key={item.id}>
              <button
                type="button"
                className="min-h-11 w-full px-3 text-left hover:bg-pick"
                onClick={() => {
                  onUsed();
                  void go(`/specs/${item.id}`, { state: { step: answer.step } });
                  onClose();
                }}
              >
                {item.name}
              </button>
            </li>
          ))}
        </ul>
      ) : null}
      {open === "batch" ? (
        <ul className="rounded-xl border border-line">
          {runs.data?.map((item) => (
            <li key={item.id}>
              <button type="button" className="min-h-11 w-full px-3 text-left hover:bg-pick" onClick={() => void toBatch(item.id)}>
                {item.name} · {item.code}
              </button>
            </li>
          ))}
          {runs.data?.length === 0 ? <li className="p-3 text-soft">No batch is running.</li> : null}
        </ul>
      ) : null}
      {said ? (
        <p role="status" className="text-[15px] break-all text-soft">
          {said}
        </p>
      ) : null}
    </div>
  );
}
