import { useState } from "react";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { clock, day } from "../../../parts/say";
import { type Line, type Today, volume } from "./lines";
import { useList } from "./useList";

const ANYBODY = "anybody";

/** Why a line is on the list as it is, who takes it up when, and what a maker decides otherwise. */
export function WhyPart({ today, line, zone, may }: { today: Today; line: Line; zone: string; may: boolean }) {
  const { decide } = useList();
  const prep = today.preps[line.key];
  const [count, setCount] = useState("");
  if (!prep) return null;
  const decided = prep.person !== null || prep.bottles !== null || prep.extra;
  const wanted = typed(count);
  const whole = wanted !== null && Number.isInteger(wanted) && wanted > 0;
  return (
    <section className="tray p-4" aria-label={`Why ${line.name}`}>
      <h2 className="mb-2 text-[20px]">Why {line.name.toLowerCase()}?</h2>
      <div className="grid gap-2 text-[15px]">
        {line.why.map((said) => (
          <p key={said}>{said}</p>
        ))}
        <ul className="text-soft">
          {line.hands.map((part) => (
            <li key={part.from_at}>
              <span className="figures">
                {day(part.from_at, zone)}, {clock(part.from_at, zone)} to {clock(part.until_at, zone)}
              </span>
              {part.name ? ` · ${part.name}` : ""}
            </li>
          ))}
          <li>
            pours from {day(line.ready_at, zone)}, {clock(line.ready_at, zone)}
            {line.use_by ? ` · good through ${day(line.use_by)}` : ""} · {volume(line.must_ml)} wanted
          </li>
        </ul>
      </div>
      {may ? (
        <div className="mt-3 flex flex-wrap items-end gap-2">
          {today.workers.length ? (
            <Choice
              label={`Who makes ${line.name}`}
              value={prep.person === null ? ANYBODY : String(prep.person)}
              options={[
                { value: ANYBODY, label: "whoever is free" },
                ...today.workers.map((one) => ({ value: String(one.person), label: `${one.name} makes it` })),
              ]}
              onChange={(who) => decide.mutate({ spec: prep.spec, wish: { person: who === ANYBODY ? null : Number(who) } })}
            />
          ) : null}
          <form
            className="flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (whole) decide.mutate({ spec: prep.spec, wish: { bottles: wanted } });
            }}
          >
            <Field
              label="Bottles"
              hideLabel
              placeholder={`${line.bottles}`}
              inputMode="numeric"
              className="w-20"
              value={count}
              onChange={setCount}
            />
            <Button type="submit" disabled={!whole}>
              Make so many
            </Button>
          </form>
          <Button onClick={() => decide.mutate({ spec: prep.spec, wish: { bottles: 0 } })}>Not today</Button>
          {decided ? (
            <Button look="quiet" onClick={() => decide.mutate({ spec: prep.spec, wish: null })}>
              As worked out
            </Button>
          ) : null}
        </div>
      ) : null}
      <Trouble error={decide.error} />
    </section>
  );
}
