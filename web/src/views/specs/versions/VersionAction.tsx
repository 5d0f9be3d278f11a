import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { SCORE } from "../../../api/rules";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";

type Version = Schemas["VersionOut"];
export interface VersionChange {
  kind: "score" | "copy" | "branch" | "withdraw";
  version: Version;
}

const WORDS = {
  score: {
    title: "Score",
    about: `From ${SCORE.least} to ${SCORE.most}, against what you tasted it. You know what you drink: what guests notice, a panel shows.`,
    send: "Keep the score",
  },
  copy: {
    title: "Hand out",
    about: "Whoever carries a copy is told when it is withdrawn: its code opens what holds now.",
    send: "Hand it out",
  },
  branch: { title: "Branch a trial from", about: "A draft of its own; staff go on making what is published.", send: "Branch it" },
  withdraw: { title: "Withdraw", about: "The reason stands on every card, open batch and bottle of it from now on.", send: "Withdraw it" },
} as const;
const NONE = "none";

/** One thing done to a version: scored, handed out, branched, withdrawn. */
export function VersionAction({
  action,
  spec,
  name,
  others,
  onClose,
}: {
  action: VersionChange | null;
  spec: string;
  name: string;
  others: readonly Version[];
  onClose: () => void;
}) {
  const key = action ? `${action.kind}-${action.version.number}` : "none";
  const words = action ? WORDS[action.kind] : WORDS.score;
  return (
    <Sheet open={action !== null} onClose={onClose} title={`${words.title} version ${action?.version.number ?? ""}`} about={words.about}>
      {action ? <ActionForm key={key} action={action} spec={spec} name={name} others={others} onDone={onClose} /> : null}
    </Sheet>
  );
}

interface FormProps {
  action: VersionChange;
  spec: string;
  name: string;
  others: readonly Version[];
  onDone: () => void;
}

function ActionForm({ action, spec, name, others, onDone }: FormProps) {
  const queries = useQueryClient();
  const go = useNavigate();
  const [text, setText] = useState(action.kind === "branch" ? `${name}, trial` : "");
  const [score, setScore] = useState("");
  const [reference, setReference] = useState("");
  const [successor, setSuccessor] = useState(NONE);
  const path = { spec_id: spec, number: action.version.number };
  const [fault, setFault] = useState<string>();
  const send = useMutation({
    mutationFn: async (): Promise<string | null> => {
      if (action.kind === "score") {
        const body = { score: typed(score) ?? 0, taster: "", reference, note: text };
        await unwrap(client.POST("/api/specs/{spec_id}/versions/{number}/scores", { params: { path }, body }));
      } else if (action.kind === "copy") {
        await unwrap(client.POST("/api/specs/{spec_id}/versions/{number}/copies", { params: { path }, body: { to: text } }));
      } else if (action.kind === "withdraw") {
        const body = { why: text, successor: successor === NONE ? null : Number(successor) };
        await unwrap(client.POST("/api/specs/{spec_id}/versions/{number}/withdraw", { params: { path }, body }));
      } else {
        return (await unwrap(client.POST("/api/specs/{spec_id}/versions/{number}/branch", { params: { path }, body: { name: text } }))).id;
      }
      return null;
    },
    onSuccess: (made) => {
      if (action.kind === "score") void queries.invalidateQueries({ queryKey: ["panels"] });
      void queries.invalidateQueries({ queryKey: ask.versions(spec).queryKey });
      void queries.invalidateQueries({ queryKey: ["specs"] });
      onDone();
      if (made) void go(`/specs/${made}`);
    },
  });
  const standing = others.filter((item) => item.number !== action.version.number && !item.withdrawn);
  const label = { score: "A note", copy: "Who carries it", branch: "Name of the trial", withdraw: "What is wrong with it" }[action.kind];
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        const wrong =
          action.kind === "score" && typed(score) === null ? `Write figures from ${SCORE.least} to ${SCORE.most}, such as 7.5.` : undefined;
        setFault(wrong);
        if (!wrong) send.mutate();
      }}
    >
      {action.kind === "score" ? (
        <>
          <Field label="Score" unit="of 10" inputMode="decimal" value={score} onChange={setScore} fault={fault} autoFocus />
          <Field label="Tasted against" value={reference} onChange={setReference} placeholder="version 2, shop-bought …" />
        </>
      ) : null}
      <Field label={label} value={text} onChange={setText} autoFocus={action.kind !== "score"} />
      {action.kind === "withdraw" && standing.length ? (
        <Choice
          label="What takes its place"
          value={successor}
          options={[
            { value: NONE, label: "nothing takes its place" },
            ...standing.map((item) => ({ value: String(item.number), label: `version ${item.number} takes its place` })),
          ]}
          onChange={setSuccessor}
        />
      ) : null}
      <Trouble error={send.error} />
      <Button look={action.kind === "withdraw" ? "warn" : "main"} type="submit" disabled={send.isPending}>
        {WORDS[action.kind].send}
      </Button>
    </form>
  );
}
