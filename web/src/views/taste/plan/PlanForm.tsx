import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { RadioGroup } from "radix-ui";
import { useDeferredValue, useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { client, expectOk, Problem, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { AIMS } from "../../../api/rules";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";
import { Block } from "./Block";
import { CanShow } from "./CanShow";
import { HowTasted } from "./HowTasted";
import { keepPlan } from "./keptPlan";
import { asking, lookAhead, type PlanText, planOf, proposedQuestion } from "./plan";
import { SamplesField } from "./SamplesField";
import { Served } from "./Served";

interface PlanFormProps {
  /** The panel that is changed; null for a new one. */
  panel: Schemas["PanelOut"] | null;
  begin: PlanText;
}

/** The words of a refusal at one of these places; samples by their number are theirs. */
const at = (error: unknown, ...places: string[]) => {
  if (!(error instanceof Problem)) return undefined;
  return places.some((place) => error.where === place || error.where.startsWith(`${place}/`)) ? error.detail : undefined;
};
const PLACES = [
  "question",
  "samples",
  "tasters",
  "rounds",
  "line",
  "glass_ml",
  "attributes",
  "is_sequential",
  "method",
  "poured_by",
  "serving",
  "equal",
  "pour_ml",
];

/** A lead says what they want to know; Ulsek proposes how, and says beforehand what this panel can show. */
export function PlanForm({ panel, begin }: PlanFormProps) {
  const [form, setForm] = useState(begin);
  const queries = useQueryClient();
  const go = useNavigate();
  const people = useQuery(ask.people());
  const shown = useQuery(ask.beforehand(lookAhead(useDeferredValue(form))));
  const method = form.method || shown.data?.methods[0]?.key || "triangle";
  const { house_id: house, person } = useSession();
  useEffect(() => {
    if (!panel && form !== begin) keepPlan(house, person, form);
  }, [panel, house, person, form, begin]);
  const put = (change: Partial<PlanText>) => setForm((before) => ({ ...before, ...change }));
  const keep = async () => {
    const body = planOf(form, method);
    return panel
      ? unwrap(client.PUT("/api/panels/{panel_id}", { params: { path: { panel_id: panel.id } }, body }))
      : unwrap(client.POST("/api/panels", { body }));
  };
  const told = (id: string) => {
    if (!panel) keepPlan(house, person, null);
    void queries.invalidateQueries({ queryKey: ["panels"] });
    void go(`/taste/${id}`, { replace: true });
  };
  const kept = useMutation({ mutationFn: keep, onSuccess: ({ id }) => told(id) });
  const opened = useMutation({
    mutationFn: async () => {
      const { id } = await keep();
      try {
        await unwrap(client.POST("/api/panels/{panel_id}/open", { params: { path: { panel_id: id } } }));
      } catch (error) {
        // It is planned all the same: what is wrong is put right there.
        if (!panel) told(id);
        throw error;
      }
      return id;
    },
    onSuccess: told,
  });
  const dropped = useMutation({
    mutationFn: () => expectOk(client.DELETE("/api/panels/{panel_id}", { params: { path: { panel_id: panel?.id ?? "" } } })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["panels"] });
      void go("/taste");
    },
  });
  const error = opened.error ?? kept.error ?? dropped.error;
  const busy = kept.isPending || opened.isPending;
  const makers = (people.data ?? []).filter((person) => person.role !== "reader");
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <h1 className="mb-3 text-[32px]">{panel ? panel.question : "What do you want to know?"}</h1>
      <form
        className="grid items-start gap-4 lg:grid-cols-[minmax(0,7fr)_minmax(0,5fr)]"
        onSubmit={(event) => {
          event.preventDefault();
          opened.mutate();
        }}
      >
        <div className="tray grid gap-5 p-4 md:p-5">
          <RadioGroup.Root
            aria-label="What do you want to know?"
            value={form.aim}
            onValueChange={(aim) => setForm((before) => asking(before, aim as PlanText["aim"]))}
            className="grid gap-2 sm:grid-cols-3"
          >
            {AIMS.map((item) => (
              <RadioGroup.Item
                key={item.aim}
                value={item.aim}
                className="rounded-[14px] border border-line p-3 text-left data-[state=checked]:border-rim data-[state=checked]:bg-pick data-[state=checked]:shadow-[inset_0_0_0_1px_var(--rim)]"
              >
                <b className="block text-[18px]">{item.question}</b>
                <span className="text-[15px] text-soft">{item.about}</span>
              </RadioGroup.Item>
            ))}
          </RadioGroup.Root>
          <SamplesField samples={form.samples} onChange={(samples) => put({ samples })} fault={at(error, "samples")} />
          <Field
            label="The question, in one sentence"
            placeholder={proposedQuestion(form) || "Can anybody tell the cheaper version?"}
            value={form.question}
            onChange={(question) => put({ question })}
            fault={at(error, "question")}
          />
          <HowTasted form={form} method={method} shown={shown.data} onChange={put} fault={(...places) => at(error, ...places)} />
          <Served form={form} onChange={put} fault={at(error, "serving", "equal", "pour_ml")} />
          <Block title="Who pours">
            <div className="flex flex-wrap items-center gap-3">
              <Choice
                label="Who pours"
                value={form.pourer}
                onChange={(pourer) => put({ pourer })}
                options={makers.map((person) => ({ value: String(person.id), label: person.name }))}
              />
              <p className="text-[15px] text-soft">They alone see which glass is which, and do not taste.</p>
            </div>
            {at(error, "poured_by") ? (
              <p role="alert" className="text-[14px] font-semibold text-warn">
                {at(error, "poured_by")}
              </p>
            ) : null}
          </Block>
        </div>
        <div className="grid gap-4 lg:sticky lg:top-4">
          <CanShow asked={shown} doses={form.samples.length ? (shown.data?.pours ?? null) : null} />
          {error && !at(error, ...PLACES) ? <Trouble error={error} /> : null}
          <div className="flex flex-wrap gap-2">
            <Button look="main" type="submit" disabled={busy || form.samples.length === 0}>
              Open the panel
            </Button>
            <Button disabled={busy} onClick={() => kept.mutate()}>
              Keep the plan
            </Button>
            {panel ? (
              <Button look="quiet" disabled={busy} onClick={() => dropped.mutate()}>
                Drop this plan
              </Button>
            ) : null}
          </div>
          <p className="text-[14px] text-soft">
            Once it is open the seal is on: nobody but who pours is told which glass is which, until the last answer.
          </p>
        </div>
      </form>
    </main>
  );
}
