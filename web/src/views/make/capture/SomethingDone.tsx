import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { typed } from "../../../parts/numbers";
import type { Captured } from "./CaptureSheets";

const NOTHING = "nothing";

/** A verb that was done, with its minutes where it takes any. */
export function SomethingDone({ onDone }: { onDone: (captured: Captured) => void }) {
  const verbs = useQuery(ask.words()).data?.verbs ?? [];
  const [verb, setVerb] = useState(NOTHING);
  const [minutes, setMinutes] = useState("");
  const does = verbs.find((item) => item.verb === verb);
  const timed = does?.params.some((param) => param.name === "minutes") ?? false;
  const unread = minutes.trim() !== "" && typed(minutes) === null;
  return (
    <>
      <Choice
        size="bench"
        label="Something is done"
        value={verb}
        options={[
          { value: NOTHING, label: "something is done …" },
          ...verbs.map((item) => ({ value: item.verb, label: item.word, group: item.family_word })),
        ]}
        onChange={setVerb}
      />
      {timed ? (
        <Field
          label="for"
          unit="min"
          inputMode="decimal"
          className="w-32"
          value={minutes}
          onChange={setMinutes}
          fault={unread ? "Write figures, such as 25." : undefined}
        />
      ) : null}
      {does ? (
        <Button
          size="bench"
          onClick={() => {
            if (unread) return;
            const time = typed(minutes);
            onDone({ name: does.word, body: { verb: does.verb, ...(timed && time !== null ? { minutes: time } : {}) } });
            setVerb(NOTHING);
            setMinutes("");
          }}
        >
          Write it down
        </Button>
      ) : null}
    </>
  );
}
