import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { MaterialPicker } from "../../../parts/MaterialPicker";
import { Trouble } from "../../../parts/Notice";
import { figure, GAP, noNumber, typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import { Keypad } from "./Keypad";
import type { OpenSheet, SheetProps } from "./sheetProps";

interface MoreProps extends SheetProps {
  onOpen: (sheet: OpenSheet) => void;
}

/** What is done now and then: hand over, a sample, a picture, something extra, a step done otherwise, the label of a vessel that waits. */
export function MoreSheet({ open, onClose, onOpen, run, now, bench }: MoreProps) {
  const [doing, setDoing] = useState<"extra" | "otherwise" | "order" | null>(null);
  const queries = useQueryClient();
  const { step } = now;
  const place = now.touched;
  const close = () => {
    setDoing(null);
    onClose();
  };
  const picture = useMutation({
    mutationFn: async (file: File) => {
      const body = { step: place?.id ?? "", media_type: "image/jpeg", data: await smaller(file) };
      return unwrap(client.POST("/api/runs/{run_id}/photos", { params: { path: { run_id: run.id } }, body }));
    },
    onSuccess: () => void queries.invalidateQueries({ queryKey: ask.run(run.id).queryKey }),
  });
  if (doing === "extra") return <Extra open={open} onClose={close} run={run} now={now} bench={bench} />;
  if (doing === "order") return <AnotherFirst open={open} onClose={close} run={run} now={now} bench={bench} />;
  if (doing === "otherwise") return <Otherwise open={open} onClose={close} run={run} now={now} bench={bench} />;
  return (
    <Sheet open={open} onClose={close} title="More" about={`${run.code} · ${run.name}`}>
      <div className="grid gap-3">
        <Button size="bench" onClick={() => onOpen("hand")} shortcut="H">
          Hand over
        </Button>
        {place ? (
          <Button size="bench" onClick={() => onOpen("sample")}>
            Set a sample aside
          </Button>
        ) : null}
        <Button size="bench" onClick={() => setDoing("extra")}>
          Something extra goes in
        </Button>
        {run.state.steps.some((item) => item.state === "later") ? (
          <Button size="bench" onClick={() => setDoing("order")}>
            Another step first
          </Button>
        ) : null}
        {step ? (
          <Button size="bench" onClick={() => setDoing("otherwise")}>
            This step was done otherwise
          </Button>
        ) : null}
        {step?.begun_at && step.minutes ? (
          <a
            className="inline-flex min-h-[72px] items-center justify-center rounded-[16px] border-2 border-rim text-[22px] font-semibold text-rim"
            href={`/api/runs/${run.id}/labels.pdf`}
            target="_blank"
            rel="noreferrer"
          >
            Label for what waits
          </a>
        ) : null}
        <label className="inline-flex min-h-[72px] cursor-pointer items-center justify-center rounded-[16px] border-2 border-rim text-[22px] font-semibold text-rim has-[:focus-visible]:outline-3">
          {picture.isPending ? "Keeping it …" : "Picture beside the sample"}
          <input
            type="file"
            accept="image/*"
            capture="environment"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) picture.mutate(file);
            }}
          />
        </label>
        <Trouble error={picture.error} />
        {run.photos.length ? (
          <ul className="flex flex-wrap gap-2">
            {run.photos.map((photo) => (
              <li key={photo.id}>
                <img src={`/api/runs/${run.id}/photos/${photo.id}`} alt={`at ${photo.step}`} className="size-20 rounded-lg object-cover" />
              </li>
            ))}
          </ul>
        ) : null}
      </div>
    </Sheet>
  );
}

/** A sample set aside, after the step that asks for one or as the vessel stands. */
export function SampleSheet({ open, onClose, run, now, bench }: SheetProps) {
  const place =
    run.state.steps.findLast((item) => item.sample.wanted && item.sample.mass_g === null && item.state !== "later") ?? now.touched;
  return (
    <Keypad
      open={open && place !== null}
      title="Set a sample aside"
      about="In a small glass, labelled, beside the pot: it is how colour is judged later."
      label="How much"
      unit="g"
      keepAs={`${run.id}.sample`}
      onClose={onClose}
      onDone={(mass_g) => {
        onClose();
        if (place) void bench.record(["sampled", { step: place.id, mass_g }]);
      }}
    />
  );
}

const LONGEST_PX = 1280;

/** The picture as JPEG, no larger than the database should keep. */
async function smaller(file: File): Promise<string> {
  const bitmap = await createImageBitmap(file);
  const scale = Math.min(1, LONGEST_PX / Math.max(bitmap.width, bitmap.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(bitmap.width * scale);
  canvas.height = Math.round(bitmap.height * scale);
  canvas.getContext("2d")?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  return canvas.toDataURL("image/jpeg", 0.8).split(",")[1] ?? "";
}

/** Something that the spec does not have: weighed, and a step of its own from now on. */
function Extra({ open, onClose, run, now, bench }: SheetProps) {
  const [material, setMaterial] = useState<string | null>(null);
  const vessel = now.step?.vessel ?? run.vessels[0]?.id ?? "";
  const put = (mass_g: number) => {
    if (!material) return;
    onClose();
    const id = `extra-${crypto.randomUUID().slice(0, 8)}`;
    const line = { id: `${id}.in`, material, amount: { kind: "fixed", written: `${mass_g} g` } };
    void bench.record(
      ["step_added", { step: { id, verb: "combine", vessel, lines: [line] } }],
      ["weighed", { line: line.id, mass_g }],
      ["step_done", { step: id }],
    );
  };
  if (material) {
    return (
      <Keypad
        open={open}
        title="Something extra"
        about="Little by little: taste, and weigh each addition."
        label="What the scale shows"
        unit="g"
        keepAs={`${run.id}.extra`}
        onClose={onClose}
        onDone={put}
      />
    );
  }
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="Something extra goes in"
      about="It is worked out with everything else, and offered to the next version."
    >
      <MaterialPicker size="bench" label="Choose what it is" onPick={setMaterial} />
    </Sheet>
  );
}

/** Another order than the spec's: a later step stands at hand now. */
function AnotherFirst({ open, onClose, run, bench }: SheetProps) {
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="Another step first"
      about="What follows is worked out again; one that needs the others stays where it is."
    >
      <ul className="grid gap-3">
        {run.state.steps
          .filter((item) => item.state === "later")
          .map((item) => (
            <li key={item.id} className="grid">
              <Button
                size="bench"
                onClick={() => {
                  onClose();
                  void bench.record(["step_first", { step: item.id }]);
                }}
              >
                {item.title}
              </Button>
            </li>
          ))}
      </ul>
    </Sheet>
  );
}

const unitOf = (param: Schemas["VerbSheet"]["params"][number]) => ("unit" in param ? param.unit : "");

/** A step as it was really done: another time, temperature, lid, pressing. */
function Otherwise({ open, onClose, run, now, bench }: SheetProps) {
  const words = useQuery(ask.words());
  const [name, setName] = useState("");
  const [text, setText] = useState("");
  const [fault, setFault] = useState<string>();
  const { step } = now;
  const verb = words.data?.verbs.find((item) => item.verb === step?.verb);
  const params = (verb?.params ?? []).filter((item) => item.kind !== "text");
  const param = params.find((item) => item.name === name) ?? params[0];
  const choices = param?.kind === "flag" ? ["yes", "no"] : param?.kind === "choice" ? param.allowed : null;
  const value = choices ? text || choices[0] : typed(text);
  return (
    <Sheet open={open} onClose={onClose} title="This step was done otherwise" about={step?.title ?? ""}>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (!step || !param) return;
          if (value === null)
            return setFault(noNumber(text, "25", `Write how it was${param.kind === "number" ? `: ${param.words}` : ""}.`));
          onClose();
          void bench.record([
            "step_changed",
            { step: step.id, changes: { [param.name]: param.kind === "flag" ? value === "yes" : value } },
          ]);
        }}
      >
        {param ? (
          <>
            <Choice
              label="What was different"
              value={param.name}
              options={params.map((item) => ({ value: item.name, label: unitOf(item) ? `${item.label}, ${unitOf(item)}` : item.label }))}
              onChange={(next) => {
                setName(next);
                setText("");
              }}
            />
            {choices ? (
              <Choice
                label={param.label}
                value={String(value)}
                options={choices.map((item) => ({ value: item, label: item.replaceAll("_", " ") }))}
                onChange={setText}
              />
            ) : (
              <Field
                size="bench"
                label={param.label}
                unit={unitOf(param)}
                inputMode="decimal"
                value={text}
                fault={fault}
                onChange={(next) => {
                  setText(next);
                  setFault(undefined);
                }}
                autoFocus
              />
            )}
            <Button look="main" size="bench" type="submit">
              That is how it was
            </Button>
          </>
        ) : (
          <p className="text-[18px]">This step has nothing to change: note it in “So far”.</p>
        )}
        <p className="text-[18px] text-soft">
          {figure(run.state.factor, 2)}
          {GAP}times the spec so far; what follows is worked out again.
        </p>
      </form>
    </Sheet>
  );
}
