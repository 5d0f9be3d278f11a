import { useState } from "react";
import { SCALE, USUAL } from "../../../api/rules";
import { useScale } from "../../../instruments/useInstruments";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { figure, GAP, typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import { useRegister } from "../../../parts/useRegister";
import { amountEvent } from "../run/amountEvent";
import type { Run } from "../run/useBench";
import { Keypad } from "./Keypad";
import type { SheetProps } from "./sheetProps";

type Line = Run["state"]["steps"][number]["lines"][number];
const WAYS = [
  { kind: "weighed", word: "grams", unit: "g", label: "What the scale shows" },
  { kind: "counted", word: "pieces", unit: "pieces", label: "How many went in" },
  { kind: "measured", word: "mL", unit: "mL", label: "What the jug shows" },
  { kind: "dosed", word: "drops", unit: "drops", label: "How many drops" },
] as const;
/** Under this name a device remembers what one drop of its dropper holds. */
export const DROP_KEY = "ulsek.drop_ml";

/** What was in before another crate went on counts towards what the scale shows. */
const allOfIt = (line: Line) => (line.so_far_g > 0 ? ` in all, of which ${figure(line.so_far_g)}${GAP}g are in` : "");

interface LineWeightProps extends Pick<SheetProps, "run" | "bench"> {
  line: Line;
  onClose: () => void;
}

/** The line at hand when it was opened: it stays that line when another tablet moves the batch on under the typing hand. */
export function WeighOne({ line, ...props }: LineWeightProps) {
  const [id] = useState(line.id);
  const held = props.run.state.steps.flatMap((step) => step.lines).find((item) => item.id === id);
  return <LineWeight {...props} line={held ?? line} />;
}

/** One line by weight, or counted and measured where weighing is silly. */
function LineWeight({ run, bench, line, onClose }: LineWeightProps) {
  const [way, setWay] = useState<(typeof WAYS)[number]>(WAYS[0]);
  const dropper = useRegister("dropper")[0]?.figures.drop_ml;
  // What was weighed on this device, else what the house has told, else what most droppers give.
  const [own, setDrop] = useState(() => localStorage.getItem(DROP_KEY));
  const drop = own ?? String(dropper ?? USUAL.drop_ml);
  const { scale } = useScale();
  const shown = scale?.shown;
  const dropMl = typed(drop);
  const live =
    way.kind === "weighed" && scale && shown?.state === "live" && shown.value !== null && shown.value > line.so_far_g - SCALE.lifted_g
      ? { name: scale.name, value: shown.value, steady: shown.steady && shown.value > 0 }
      : null;
  return (
    <Keypad
      open
      title={line.name}
      {...(line.planned_g ? { about: `${figure(line.planned_g.value)}${GAP}g wanted${allOfIt(line)}` } : {})}
      label={way.label}
      unit={way.unit}
      keepAs={`${run.id}.${line.id}.${way.kind}`}
      live={run.rehearsal ? null : live}
      awaited={way.kind === "weighed" && !run.rehearsal ? scale?.name : undefined}
      onClose={onClose}
      onDone={(value) => {
        if (way.kind === "dosed" && dropMl === null) return;
        onClose();
        if (way.kind === "dosed" && own !== null) localStorage.setItem(DROP_KEY, own);
        void bench.record(amountEvent(run, line, way.kind, value, dropMl));
      }}
    >
      {WAYS.map((item) => (
        <Button key={item.kind} look={item === way ? "main" : "plain"} aria-pressed={item === way} onClick={() => setWay(item)}>
          {item.word}
        </Button>
      ))}
      {way.kind === "dosed" ? (
        <Field
          label="One drop (weigh twenty, and divide)"
          unit="mL"
          inputMode="decimal"
          value={drop}
          onChange={setDrop}
          fault={dropMl === null ? `Write figures, such as ${USUAL.drop_ml}.` : undefined}
        />
      ) : null}
    </Keypad>
  );
}

/** All weights that are known already, in any order, ticked off; what aims at a figure waits for its turn. */
export function WeighAhead({ open, onClose, run, bench }: SheetProps) {
  const [line, setLine] = useState<Line | null>(null);
  const lines = run.state.steps.filter((step) => step.state === "now" || step.state === "later").flatMap((step) => step.lines);
  if (line) {
    return <LineWeight run={run} bench={bench} line={line} onClose={() => setLine(null)} />;
  }
  return (
    <Sheet open={open} onClose={onClose} title="Weigh ahead" about="In any order, each into its own cup; then the heat." wide>
      <ul className="grid gap-2">
        {lines.map((item) => (
          <li key={item.id}>
            <button
              type="button"
              disabled={!item.ahead && item.actual_g === null}
              onClick={() => setLine(item)}
              className={`grid disabled:border-dashed disabled:text-soft min-h-16 w-full grid-cols-[auto_1fr_auto] items-center gap-4 rounded-[14px] border px-4 text-left text-[20px] ${item.actual_g === null ? "border-rim" : "border-line bg-quiet"}`}
            >
              <span aria-hidden="true" className="text-[26px]">
                {item.actual_g === null ? "○" : "✓"}
              </span>
              <span className="font-bold">
                {item.name}
                {item.ahead || item.actual_g !== null ? null : <span className="block text-[18px] font-normal">waits for the pot</span>}
              </span>
              <span className={`figures text-[24px] font-bold ${item.actual_g === null ? "worked" : "was-read"}`}>
                {figure(item.actual_g ?? item.planned_g?.value ?? 0)}
                {GAP}g
              </span>
            </button>
          </li>
        ))}
        {lines.length === 0 ? <li className="text-[20px] text-soft">Everything is in.</li> : null}
      </ul>
    </Sheet>
  );
}
