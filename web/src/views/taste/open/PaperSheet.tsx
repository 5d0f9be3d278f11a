import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { Sheet } from "../../../parts/Sheet";
import type { Answer } from "../../../sync/seat";
import { usePanelAct } from "../common/usePanelAct";
import { PaperAnswer } from "./PaperAnswer";
import { sheetPages } from "./sheetPages";

interface PaperSheetProps {
  panel: Schemas["PanelOut"];
  open: boolean;
  onClose: () => void;
}

/** What stands on a taster's sheet of paper is typed in by who pours, after the tasting. */
export function PaperSheet({ panel, open, onClose }: PaperSheetProps) {
  const [number, setNumber] = useState("");
  const [name, setName] = useState("");
  const [answers, setAnswers] = useState<Record<number, Answer>>({});
  const key = useQuery({ ...ask.pouring(panel.id), enabled: open });
  const act = usePanelAct(
    () =>
      unwrap(
        client.POST("/api/panels/{panel_id}/sheets", {
          params: { path: { panel_id: panel.id } },
          body: { number: Number(number), name, answers },
        }),
      ),
    () => {
      setNumber("");
      setName("");
      setAnswers({});
      onClose();
    },
  );
  const seats = Array.from({ length: panel.tasters }, (_, n) => String(n + 1)).filter(
    (seat) => !panel.seats.some((taken) => String(taken.number) === seat && taken.answered > 0),
  );
  const pages = key.data && number ? sheetPages(panel, key.data, Number(number)) : [];
  return (
    <Sheet open={open} onClose={onClose} title="A sheet of paper" about="The number of its seat stands at its head." wide>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          act.mutate();
        }}
      >
        <div className="flex flex-wrap items-end gap-3">
          <Choice
            label="Seat"
            value={number}
            onChange={(seat) => {
              setNumber(seat);
              setAnswers({});
            }}
            options={seats.map((seat) => ({ value: seat, label: `seat ${seat}` }))}
          />
          <Field label="Whose it is" value={name} onChange={setName} className="flex-1" />
        </div>
        {pages.map((page) => (
          <PaperAnswer
            key={`${number} ${page.turn}`}
            page={page}
            attributes={panel.design.attributes}
            onChange={(answer) => setAnswers((before) => ({ ...before, [page.turn]: answer }))}
          />
        ))}
        <Trouble error={act.error} />
        <Button look="main" type="submit" disabled={act.isPending || !number || Object.keys(answers).length === 0}>
          Keep the sheet
        </Button>
      </form>
    </Sheet>
  );
}
