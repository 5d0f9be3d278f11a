import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import type { Entry } from "../../../parts/useRegister";
import { figuresTyped, type Kind } from "./typed";

interface EntryFormProps {
  kind: Kind;
  /** What is changed; a new one without it. */
  entry?: Entry;
  onDone: () => void;
}

/** One entry of the register: its name, its figures with their bounds, a note. */
export function EntryForm({ kind, entry, onDone }: EntryFormProps) {
  const queries = useQueryClient();
  const [name, setName] = useState(entry?.name ?? "");
  const [note, setNote] = useState(entry?.note ?? "");
  const [written, setWritten] = useState<Readonly<Record<string, string>>>(() =>
    Object.fromEntries(kind.figures.map(({ key }) => [key, entry?.figures[key] === undefined ? "" : String(entry.figures[key])])),
  );
  const [wrong, setWrong] = useState<Readonly<Record<string, string>>>({});
  const keep = useMutation({
    mutationFn: async () => {
      const { figures, faults } = figuresTyped(kind.figures, written);
      setWrong(faults);
      if (Object.keys(faults).length) return false;
      const body = { kind: kind.key, name, figures, note };
      await unwrap(
        entry
          ? client.PUT("/api/register/{entry_id}", { params: { path: { entry_id: entry.id } }, body })
          : client.POST("/api/register", { body }),
      );
      return true;
    },
    onSuccess: (kept) => {
      if (!kept) return;
      // Cards, sums, labels and bottles show it.
      void queries.invalidateQueries();
      onDone();
    },
  });
  const parts = ["name", "note", ...kind.figures.map(({ key }) => `figures/${key}`)];
  const faults: Readonly<Record<string, string | undefined>> = faultsOf(keep.error);
  return (
    <form
      className="my-2 grid gap-3 rounded-xl bg-quiet p-4"
      aria-label={entry ? `Change ${entry.name}` : `${kind.title}: one more`}
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <Field label="What it is called" value={name} onChange={setName} fault={faults.name} required maxLength={60} />
      {kind.figures.map((item) => (
        <Field
          key={item.key}
          label={item.needed ? item.label : `${item.label}, if known`}
          unit={item.unit}
          inputMode="decimal"
          placeholder={String(item.such)}
          value={written[item.key] ?? ""}
          onChange={(value) => setWritten((before) => ({ ...before, [item.key]: value }))}
          fault={wrong[item.key] ?? faults[`figures/${item.key}`]}
        />
      ))}
      <Field label="Note" value={note} onChange={setNote} fault={faults.note} maxLength={300} />
      <Trouble error={restOf(keep.error, parts)} />
      <div className="flex gap-2">
        <Button look="main" type="submit" disabled={keep.isPending || !name.trim()}>
          Keep it
        </Button>
        <Button look="quiet" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
