import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, Problem, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { isForTheCard } from "../../../parts/faults";
import { Notice, Trouble } from "../../../parts/Notice";
import { Sheet } from "../../../parts/Sheet";
import { asked, sized, type Way, waysOf } from "./startWays";

const SIZES = ["mass_g", "volume_ml", "factor"];

/** Starts a batch of a spec: as the spec says, or sized by what there is or what is wanted. */
export function StartRun({ spec, onClose }: { spec: Schemas["SpecRow"] | null; onClose: () => void }) {
  const go = useNavigate();
  const [way, setWay] = useState<Way>("spec");
  const [amount, setAmount] = useState("");
  const [fault, setFault] = useState<string>();
  const [id] = useState(() => crypto.randomUUID());
  const [rehearsal, setRehearsal] = useState(false);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const card = useQuery({ ...ask.card(spec?.id ?? "", { language: "en" }), enabled: spec !== null });
  const reading = useQuery({ ...ask.reading(spec?.id ?? "", spec?.version ?? 0), enabled: Boolean(spec?.version) });
  const groups = spec ? (card.data?.choices ?? []) : [];
  const driver = card.data?.driver ?? "";
  const wanted = asked(way, driver);
  const start = useMutation({
    mutationFn: (size: Record<string, number>) =>
      unwrap(
        client.POST("/api/runs", {
          body: {
            id,
            spec: spec?.id ?? "",
            rehearsal,
            chosen: Object.fromEntries(groups.map((group) => [group.id, chosen[group.id] ?? group.chosen])),
            ...size,
          },
        }),
      ),
    onSuccess: (run) => void go(`/make/${run.id}`),
  });
  const send = () => {
    const found = sized(wanted, amount);
    setFault("fault" in found ? found.fault : undefined);
    if ("size" in found) start.mutate(found.size);
  };
  const problem = start.error instanceof Problem && SIZES.includes(start.error.where) ? start.error.detail : undefined;
  return (
    <Sheet
      open={spec !== null}
      onClose={onClose}
      title={`Start ${spec?.name.toLowerCase() ?? ""}`}
      about="The batch is scaled to it; the spec stays as it is."
    >
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <fieldset className="grid gap-2 sm:grid-cols-2">
          <legend className="mb-1 text-[14px] text-soft">How much of it</legend>
          {waysOf(driver).map((item) => (
            <label
              key={item.value}
              className={`flex min-h-14 items-center gap-3 rounded-xl border px-3 text-[18px] ${way === item.value ? "border-rim bg-pick" : "border-line"}`}
            >
              <input
                type="radio"
                name="way"
                className="size-5 shrink-0 accent-rim"
                checked={way === item.value}
                onChange={() => setWay(item.value)}
              />
              {item.label}
            </label>
          ))}
        </fieldset>
        {wanted ? (
          <Field
            size="bench"
            label={wanted.label}
            unit={wanted.unit}
            inputMode="decimal"
            value={amount}
            onChange={setAmount}
            fault={fault ?? problem}
            autoFocus
          />
        ) : null}
        {groups.map((group) => (
          <Choice
            key={group.id}
            label={group.name}
            value={chosen[group.id] ?? group.chosen}
            options={group.choices.map((item) => ({ value: item.id, label: `${group.name}: ${item.name}` }))}
            onChange={(choice) => setChosen({ ...chosen, [group.id]: choice })}
          />
        ))}
        <label className="flex min-h-14 items-center gap-3 text-[18px]">
          <input
            type="checkbox"
            className="size-6 accent-rim"
            checked={rehearsal}
            onChange={(event) => setRehearsal(event.target.checked)}
          />
          rehearse it: simulated instruments, nothing from the store, only for me
        </label>
        {reading.data?.lacks_clearance && !rehearsal ? (
          <Notice severity="check">No lead has cleared you for this one yet. You may start it all the same; it is noted.</Notice>
        ) : null}
        <Trouble error={problem ? null : start.error} />
        {isForTheCard(start.error) ? (
          <Link
            to={`/specs/${spec?.id}/card`}
            className="inline-flex min-h-16 items-center justify-center rounded-[16px] border-2 border-rim text-[20px] font-bold text-rim"
          >
            Its card
          </Link>
        ) : null}
        <Button look="main" size="bench" type="submit" disabled={start.isPending}>
          Start
        </Button>
      </form>
    </Sheet>
  );
}
