import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { SCALE } from "../../../api/rules";
import { useScale } from "../../../instruments/useInstruments";
import { Button, Key } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { NotFetched, Shape } from "../../../parts/Notice";
import { figure, GAP, typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import type { Now } from "../run/now";
import type { Run } from "../run/useBench";
import type { SheetProps } from "./sheetProps";

type Supply = Schemas["SupplyOut"];
type Line = NonNullable<Now["line"]>;

/** What a line is taken from: what was named for it, else what the run pinned for its material. */
const supplyOf = (run: Run, line: Line) => line.supply ?? run.supplies[line.material] ?? null;
const materialOf = (line: Line) => line.material.split("~")[0];

function stands(item: Supply): string {
  if (item.left_g < 0) return `${figure(-item.left_g, 0)}${GAP}g short`;
  const left = `${figure(item.left_g, 0)}${GAP}g left`;
  if (item.makes_ml === null) return left;
  const litres = item.makes_ml / 1000;
  return `${left}, makes ${figure(litres, litres < 10 ? 1 : 0)}${GAP}L`;
}

/** Which crate or bottle the line at hand comes out of, what is left in it and what that still makes; another one by a press. */
export function SupplyLine({ run, line, onOpen }: { run: Run; line: Line; onOpen: () => void }) {
  const { data = [] } = useQuery(ask.supplies(run.id, run.lamport));
  const own = data.filter((item) => item.material === materialOf(line));
  const taken = own.find((item) => item.supply === supplyOf(run, line));
  if (!own.length) return null;
  // What is in so far came out of those that ran empty.
  const before = line.parts.map((part) => {
    const from = own.find((item) => item.supply === run.supplies[part.material]);
    return `${figure(part.mass_g)}${GAP}g from ${from?.code ?? "another"}`;
  });
  const odd = taken !== undefined && (taken.left_g < 0 || taken.warning !== "");
  return (
    <button
      type="button"
      onClick={onOpen}
      className={`mt-2 flex min-h-16 items-center gap-3 py-2 rounded-[14px] border border-line bg-quiet px-4 text-left text-[20px] leading-snug ${odd ? "font-bold text-warn" : ""}`}
    >
      <span>
        {taken
          ? `${before.length ? `${before.join(", ")}, the rest from` : "From"} ${taken.code}, ${taken.about} · ${stands(taken)}${taken.warning ? ` · ${taken.warning}` : ""}`
          : "From nothing in Stores"}
      </span>
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
  const own = supplies.data?.filter((item) => item.material === materialOf(line));
  const poured = own?.find((item) => item.supply === supplyOf(run, line));
  const inAlready = typed(already);
  const unreadable = already.trim() !== "" && (inAlready === null || inAlready <= 0);
  const live = scale?.shown?.state === "live" && scale.shown.steady ? scale.shown.value : null;
  const take = (supply: string) => {
    if (unreadable) return;
    onClose();
    void bench.record(
      inAlready === null ? ["taken_from", { line: line.id, supply }] : ["went_on", { line: line.id, mass_g: inAlready, supply }],
    );
  };
  const scanned = async () => {
    try {
      const query = { line: line.id, code };
      const { supply } = await unwrap(client.GET("/api/runs/{run_id}/supplies/scanned", { params: { path: { run_id: run.id }, query } }));
      take(supply);
    } catch (error) {
      // Without the site a crate is known by its code, as it was last listed here.
      const here = own?.find((item) => item.code === code.trim().split("/").at(-1)?.toUpperCase());
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
              fault={unreadable ? "Figures above 0, or nothing" : undefined}
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
        {inAlready === null ? null : (
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
                  <span className={`figures ${item.left_g < 0 ? "font-bold text-warn" : ""}`}>{stands(item)}</span>
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
