import { useQueries } from "@tanstack/react-query";
import { memo } from "react";
import { client, type SpecFile, type SpecOptions, unwrap } from "../../../api/client";
import { FIGURES } from "../../../api/figures";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { withoutUnit, withUnit } from "../../../parts/numbers";
import { fromHereOr } from "../../../sync/core";
import { changeOption, settleOption } from "./body";
import type { Result } from "./useDraft";

interface OptionsPanelProps {
  body: SpecFile;
  result: Result;
  mayEdit: boolean;
  edit: (change: (body: SpecFile) => SpecFile) => void;
}

/** The alternative that counts: as it was just chosen, else as the core has it. */
const chosenOf = (group: SpecOptions, result: Result) => group.chosen ?? result.options.find((item) => item.id === group.id)?.chosen;

/** Alternatives for parts of the spec, each worked out beside the others; the chosen one is what the steps show. */
export const OptionsPanel = memo(function OptionsPanel({ body, result, mayEdit, edit }: OptionsPanelProps) {
  const groups = body.options ?? [];
  const cases = groups.flatMap((group) => group.choices.map((choice) => ({ group, choice })));
  const worked = useQueries({
    queries: cases.map(({ group, choice }) => ({
      queryKey: ["alternative", body, group.id, choice.id],
      gcTime: 0,
      queryFn: () => {
        const spec = changeOption(group.id, (item) => ({ ...item, chosen: choice.id }))(body);
        const site = () => unwrap(client.POST("/api/evaluate", { body: { spec: spec as unknown as Record<string, unknown> } }));
        return fromHereOr(site, "evaluate", spec);
      },
    })),
  });
  if (groups.length === 0) return null;
  const finalOf = (group: string, choice: string) =>
    worked[cases.findIndex((item) => item.group.id === group && item.choice.id === choice)]?.data?.final;
  return (
    <section className="tray grid gap-3 p-4" aria-label="Ways">
      <h2 className="text-[20px]">Ways</h2>
      {groups.map((group) => (
        <fieldset key={group.id} className="grid gap-1">
          <legend className="mb-1 w-full">
            {mayEdit ? (
              <Field
                hideLabel
                label="What the ways are for"
                value={group.name ?? ""}
                onChange={(name) => edit(changeOption(group.id, (item) => ({ ...item, name })))}
              />
            ) : (
              <b>{group.name}</b>
            )}
          </legend>
          {group.choices.map((choice) => {
            const final = finalOf(group.id, choice.id);
            return (
              <div
                key={choice.id}
                className={`grid grid-cols-[auto_1fr] gap-x-3 rounded-lg p-2 ${chosenOf(group, result) === choice.id ? "bg-pick" : ""}`}
              >
                <input
                  type="radio"
                  name={group.id}
                  aria-label={choice.name ?? choice.id}
                  disabled={!mayEdit}
                  className="mt-3 size-5 accent-rim"
                  checked={chosenOf(group, result) === choice.id}
                  onChange={() => edit(changeOption(group.id, (item) => ({ ...item, chosen: choice.id })))}
                />
                <div>
                  {mayEdit ? (
                    <Field
                      hideLabel
                      label="Name of this way"
                      value={choice.name ?? ""}
                      onChange={(name) =>
                        edit(
                          changeOption(group.id, (item) => ({
                            ...item,
                            choices: item.choices.map((other) => (other.id === choice.id ? { ...other, name } : other)),
                          })),
                        )
                      }
                    />
                  ) : (
                    <b>{choice.name}</b>
                  )}
                  {choice.note ? <p className="text-[14px] text-soft">{choice.note}</p> : null}
                  {final ? (
                    <p className="figures text-[14px]">
                      {withUnit("brix", final.brix.value)} · {withoutUnit("acid_g_100ml", final.acid_g_100ml.value)} acid
                      {final.abv.value > FIGURES.abv.shownFrom ? ` · ${withUnit("abv", final.abv.value)}` : ""} · keeps {final.keeps_days} d
                    </p>
                  ) : null}
                </div>
              </div>
            );
          })}
          {mayEdit ? (
            <Button look="quiet" onClick={() => edit(settleOption(group.id, result.words.steps))}>
              Settle on what is chosen
            </Button>
          ) : null}
        </fieldset>
      ))}
    </section>
  );
});
