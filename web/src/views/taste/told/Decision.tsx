import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { Trouble } from "../../../parts/Notice";
import { Sheet } from "../../../parts/Sheet";
import { moment } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { usePanelAct } from "../common/usePanelAct";
import { offers } from "./offers";

/** What was decided, by whom and why; or what may be, as one press and a reason. */
export function Decision({ panel, may }: { panel: Schemas["PanelOut"]; may: boolean }) {
  const { zone } = useSession();
  const [form, setForm] = useState<{ decision: string; why: string } | null>(null);
  const act = usePanelAct(
    () =>
      unwrap(
        client.PUT("/api/panels/{panel_id}/decision", {
          params: { path: { panel_id: panel.id } },
          body: form ?? { decision: "", why: "" },
        }),
      ),
    () => setForm(null),
  );
  const faults = faultsOf(act.error);
  return (
    <div className="grid gap-2 border-t border-line pt-3">
      {panel.decision ? (
        <p className="text-[18px]">
          <b>{panel.decision}</b>
          <span className="block text-[15px] text-soft">
            decided by {panel.decided_by}
            {panel.decided_at ? `, ${moment(panel.decided_at, zone)}` : ""}: {panel.decision_why}
          </span>
        </p>
      ) : null}
      {may ? (
        <div className="flex flex-wrap gap-2">
          {panel.decision ? (
            <Button onClick={() => setForm({ decision: panel.decision, why: "" })}>Decide anew</Button>
          ) : (
            offers(panel).map((decision, n) => (
              <Button key={decision} look={n ? "plain" : "main"} onClick={() => setForm({ decision, why: "" })}>
                {decision}
              </Button>
            ))
          )}
        </div>
      ) : panel.decision ? null : (
        <p className="text-soft">Nothing is decided yet.</p>
      )}
      <Sheet
        open={form !== null}
        onClose={() => setForm(null)}
        title="What is decided"
        about="It stands with your name, and with the verdict."
      >
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            act.mutate();
          }}
        >
          <Field
            label="In one sentence"
            value={form?.decision ?? ""}
            onChange={(decision) => setForm((before) => (before ? { ...before, decision } : before))}
            fault={faults.decision}
          />
          <Field
            label="Why"
            value={form?.why ?? ""}
            onChange={(why) => setForm((before) => (before ? { ...before, why } : before))}
            placeholder="what weighed"
            fault={faults.why}
          />
          <Trouble error={restOf(act.error, ["decision", "why"])} />
          <Button look="main" type="submit" disabled={act.isPending}>
            Write it down
          </Button>
        </form>
      </Sheet>
    </div>
  );
}
