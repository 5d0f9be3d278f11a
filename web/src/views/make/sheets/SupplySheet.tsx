import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { SCALE } from "../../../api/rules";
import { useScale } from "../../../instruments/useInstruments";
import { Button, Key } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { NotFetched, Shape } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import type { Run } from "../run/useBench";
import type { SheetProps } from "./sheetProps";
import { byCode, inAlready, type Line, standsAt, suppliesFor, supplyOf, takenEvent, takenWords } from "./supply";

/** Which crate or bottle the line at hand comes out of, what is left in it and what that still makes; another one by a press. */
export function SupplyLine({ run, line, onOpen }: { run: Run; line: Line; onOpen: () => void }) {
  const { data = [] } = useQuery(ask.supplies(run.id, run.lamport));
  const taken = takenWords(run, line, data);
  if (!taken) return null;
  return (
    <button
      type="button"
      onClick={onOpen}
      className={`mt-2 flex min-h-16 items-center gap-3 py-2 rounded-[14px] border border-line bg-quiet px-4 text-left text-[20px] leading-snug ${taken.odd ? "font-bold text-warn" : ""}`}
    >
      <span>{taken.words}</span>
      <Key>F</Key>
    </button>
  );
}

/** The crates and bottles that a line can come out of: chosen, scanned, or typed by their code. */
export function SupplySheet({ onClose, run, now, bench }: Omit<SheetProps, "open">) {
  const { line } = now;
  const [code, setCode] = useState("");
  const [fault, setFault] = useState<string>();
  const [already, setAlready] = useState("");
  const { scale } = useScale();
  const supplies = useQuery({ ...ask.supplies(run.id, run.lamport), enabled: line !== null });
  if (!line) return null;
  const own = supplies.data && suppliesFor(line, supplies.data);
  const poured = own?.find((item) => item.supply === supplyOf(run, line));
  const { mass, fault: unreadable } = inAlready(already);
  const live = scale?.shown?.state === "live" && scale.shown.steady ? scale.shown.value : null;
  const take = (supply: string) => {
    if (unreadable) return;
    onClose();
    void bench.record(takenEvent(line.id, supply, mass));
  };
  const scanned = async () => {
    try {
      const query = { line: line.id, code };
      const { supply } = await unwrap(client.GET("/api/runs/{run_id}/supplies/scanned", { params: { path: { run_id: run.id }, query } }));
      take(supply);
    } catch (error) {
      const here = byCode(own ?? [], code);
      if (here && error instanceof Problem && error.isAway) take(here.supply);
      else setFault(error instanceof Problem ? error.detail : String(error));
    }
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title={`${line.name} comes from`}
      about="Everything after it is worked out with what was read of that one."
      wide
    >
      <div className="grid gap-4">
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (code.trim()) void scanned();
          }}
        >
          <Field
            size="bench"
            label="Scan its label, or type its code"
            value={code}
            onChange={(next) => {
              setCode(next);
              setFault(undefined);
            }}
            fault={fault}
            autoFocus
            className="min-w-56 flex-1"
          />
          {poured ? (
            <Field
              size="bench"
              label={`In already, of ${poured.code}`}
              unit="g"
              inputMode="decimal"
              placeholder="0"
              value={already}
              onChange={setAlready}
              fault={unreadable}
              className="w-56"
            />
          ) : null}
          <Button size="bench" look="main" type="submit" disabled={!code.trim()}>
            Take it
          </Button>
          {poured && live !== null && live > SCALE.lifted_g ? (
            <Button size="bench" onClick={() => setAlready(String(Number(live.toFixed(1))))}>
              In already: the {figure(live, 1)}
              {GAP}g on the scale
            </Button>
          ) : null}
        </form>
        {mass === null ? null : (
          <p className="text-[20px]" role="status">
            The rest comes out of the one that you choose now. Don't tare: the weight goes on from there.
          </p>
        )}
        <NotFetched questions={[supplies]} />
        {supplies.isPending ? <Shape rows={2} /> : null}
        <ul className="grid gap-2">
          {own?.map((item) => {
            const here = item.supply === supplyOf(run, line);
            return (
              <li key={item.supply}>
                <button
                  type="button"
                  aria-pressed={here}
                  onClick={() => take(item.supply)}
                  className={`grid min-h-16 w-full gap-x-4 rounded-[14px] border px-4 py-2 text-left text-[20px] sm:grid-cols-[auto_1fr_auto] sm:items-center ${here ? "border-2 border-rim bg-pick" : "border-rim"}`}
                >
                  <b className="figures">{item.code}</b>
                  <span>
                    {item.name}, {item.about}
                    {item.warning ? <b className="block text-warn">{item.warning}</b> : null}
                  </span>
                  <span className={`figures ${item.left_g < 0 ? "font-bold text-warn" : ""}`}>{standsAt(item)}</span>
                </button>
              </li>
            );
          })}
        </ul>
        {own && !own.length ? (
          <p className="text-[20px] text-soft">Nothing of it stands in Stores: weigh it, and count it in later.</p>
        ) : null}
      </div>
    </Sheet>
  );
}
