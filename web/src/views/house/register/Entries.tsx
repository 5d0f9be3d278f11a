import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, expectOk } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import type { Entry } from "../../../parts/useRegister";
import { EntryForm } from "./EntryForm";
import type { Kind } from "./typed";

/** A figure as somebody gave it: 1 g, 0.01 g, 24.5 cm. */
const asKnown = (value: number) => figure(value, (String(value).split(".")[1] ?? "").length);

/** What stands or came there, in words. */
function holds(entry: Entry): string {
  if (!entry.holds) return "";
  if (entry.kind === "place") return entry.holds === 1 ? "1 bottle stands there" : `${entry.holds} bottles stand there`;
  return entry.holds === 1 ? "1 delivery in the house" : `${entry.holds} deliveries in the house`;
}

/** The entries of one kind, what they change, and the form for one more. */
export function Entries({ kind, entries }: { kind: Kind; entries: readonly Entry[] }) {
  const [adding, setAdding] = useState(false);
  return (
    <section className="tray mb-4 break-inside-avoid p-5" aria-label={kind.title}>
      <div className="flex items-center justify-between gap-3">
        <h2 className="text-[20px]">{kind.title}</h2>
        {adding ? null : (
          <Button look="quiet" onClick={() => setAdding(true)} aria-label={`${kind.title}: add one`}>
            Add one
          </Button>
        )}
      </div>
      <p className="mb-2 text-[14px] text-soft">{kind.changes}</p>
      {entries.length ? (
        <ul>
          {entries.map((entry) => (
            <EntryLine key={entry.id} kind={kind} entry={entry} />
          ))}
        </ul>
      ) : null}
      {adding ? <EntryForm kind={kind} onDone={() => setAdding(false)} /> : null}
    </section>
  );
}

function EntryLine({ kind, entry }: { kind: Kind; entry: Entry }) {
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const drop = useMutation({
    mutationFn: () => expectOk(client.DELETE("/api/register/{entry_id}", { params: { path: { entry_id: entry.id } } })),
    onSuccess: () => void queries.invalidateQueries(),
  });
  if (open) {
    return (
      <li className="border-t border-line">
        <EntryForm kind={kind} entry={entry} onDone={() => setOpen(false)} />
      </li>
    );
  }
  const said = kind.figures.flatMap(({ key, unit }) => {
    const value = entry.figures[key];
    return value === undefined ? [] : [`${asKnown(value)}${GAP}${unit}`];
  });
  const about = [holds(entry), entry.note].filter(Boolean).join(" · ");
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-3 border-t border-line py-1">
      <div className="min-w-0 flex-1 basis-48">
        <p className="text-[17px]">
          <b>{entry.name}</b>
          {said.length ? <span className="figures ml-3">{said.join(" · ")}</span> : null}
        </p>
        {about ? <p className="text-[14px] text-soft">{about}</p> : null}
      </div>
      <div className="flex gap-1">
        <Button look="quiet" onClick={() => setOpen(true)} aria-label={`Change ${entry.name}`}>
          Change
        </Button>
        <Button look="quiet" disabled={drop.isPending} onClick={() => drop.mutate()} aria-label={`Take ${entry.name} off the list`}>
          Take off
        </Button>
      </div>
      <Trouble error={drop.error} />
    </li>
  );
}
