import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, told } from "../../api/client";
import { ask } from "../../api/queries";
import { SCORE } from "../../api/rules";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Field } from "../../parts/Field";
import { Trouble } from "../../parts/Notice";
import { typed } from "../../parts/numbers";
import { Sheet } from "../../parts/Sheet";

type Version = Schemas["VersionOut"];
export interface Deed {
  kind: "score" | "copy" | "branch" | "withdraw";
  version: Version;
}

const WORDS = {
  score: { title: "Score", about: `From ${SCORE.least} to ${SCORE.most}, against what you tasted it.`, send: "Keep the score" },
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
export function VersionDeed({
  deed,
  spec,
  name,
  others,
  onClose,
}: {
  deed: Deed | null;
  spec: string;
  name: string;
  others: readonly Version[];
  onClose: () => void;
}) {
  const key = deed ? `${deed.kind}-${deed.version.number}` : "none";
  const words = deed ? WORDS[deed.kind] : WORDS.score;
  return (
    <Sheet open={deed !== null} onClose={onClose} title={`${words.title} version ${deed?.version.number ?? ""}`} about={words.about}>
      {deed ? <DeedForm key={key} deed={deed} spec={spec} name={name} others={others} onDone={onClose} /> : null}
    </Sheet>
  );
}

interface FormProps {
  deed: Deed;
  spec: string;
  name: string;
  others: readonly Version[];
  onDone: () => void;
}

function DeedForm({ deed, spec, name, others, onDone }: FormProps) {
  const queries = useQueryClient();
  const go = useNavigate();
  const [text, setText] = useState(deed.kind === "branch" ? `${name}, trial` : "");
  const [score, setScore] = useState("");
  const [reference, setReference] = useState("");
  const [successor, setSuccessor] = useState(NONE);
  const path = { spec_id: spec, number: deed.version.number };
  const [fault, setFault] = useState<string>();
  const send = useMutation({
    mutationFn: async (): Promise<string | null> => {
      if (deed.kind === "score") {
        const body = { score: typed(score) ?? 0, taster: "", reference, note: text };
        await told(client.POST("/api/specs/{spec_id}/versions/{number}/scores", { params: { path }, body }));
      } else if (deed.kind === "copy") {
        await told(client.POST("/api/specs/{spec_id}/versions/{number}/copies", { params: { path }, body: { to: text } }));
      } else if (deed.kind === "withdraw") {
        const body = { why: text, successor: successor === NONE ? null : Number(successor) };
        await told(client.POST("/api/specs/{spec_id}/versions/{number}/withdraw", { params: { path }, body }));
      } else {
        return (await told(client.POST("/api/specs/{spec_id}/versions/{number}/branch", { params: { path }, body: { name: text } }))).id;
      }
      return null;
    },
    onSuccess: (made) => {
      void queries.invalidateQueries({ queryKey: ask.versions(spec).queryKey });
      void queries.invalidateQueries({ queryKey: ["specs"] });
      onDone();
      if (made) void go(`/specs/${made}`);
    },
  });
  const standing = others.filter((item) => item.number !== deed.version.number && !item.withdrawn);
  const label = { score: "A note", copy: "Who carries it", branch: "Name of the trial", withdraw: "What is wrong with it" }[deed.kind];
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        const wrong =
          deed.kind === "score" && typed(score) === null ? `Write figures from ${SCORE.least} to ${SCORE.most}, such as 7.5.` : undefined;
        setFault(wrong);
        if (!wrong) send.mutate();
      }}
    >
      {deed.kind === "score" ? (
        <>
          <Field label="Score" unit="of 10" inputMode="decimal" value={score} onChange={setScore} fault={fault} autoFocus />
          <Field label="Tasted against" value={reference} onChange={setReference} placeholder="version 2, shop-bought …" />
        </>
      ) : null}
      <Field label={label} value={text} onChange={setText} autoFocus={deed.kind !== "score"} />
      {deed.kind === "withdraw" && standing.length ? (
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
      <Button look={deed.kind === "withdraw" ? "warn" : "main"} type="submit" disabled={send.isPending}>
        {WORDS[deed.kind].send}
      </Button>
    </form>
  );
}
