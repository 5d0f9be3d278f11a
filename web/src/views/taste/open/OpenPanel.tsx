import { useState } from "react";
import { Link } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Trouble } from "../../../parts/Notice";
import { Sheet } from "../../../parts/Sheet";
import { canLead, canMake, useSession } from "../../../session/session";
import { usePanelAct } from "../common/usePanelAct";
import { Invitation } from "./Invitation";
import { PaperSheet } from "./PaperSheet";
import { Seats } from "./Seats";

type Panel = Schemas["PanelOut"];

/** A panel on the table: how tasters come in, who has answered, and nothing of what is in the glasses. */
export function OpenPanel({ panel }: { panel: Panel }) {
  const session = useSession();
  const [sheet, setSheet] = useState<"paper" | "seal" | null>(null);
  const close = () => setSheet(null);
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
        <h1 className="text-[30px]">{panel.question}</h1>
        <p className="font-semibold text-good">◆ the seal is on</p>
      </div>
      {panel.stop ? (
        <p role="alert" className="tray mb-3.5 border-2 border-warn p-4 text-[18px] font-bold text-warn">
          {panel.stop}
        </p>
      ) : null}
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,5fr)_minmax(0,7fr)]">
        {panel.link ? <Invitation panel={panel} /> : null}
        <section className="tray grid gap-4 p-4 md:p-5" aria-label="Answers">
          <Seats panel={panel} />
          <div className="grid gap-1 border-t border-line pt-3 text-[15px] text-soft">
            <p>
              {panel.method_name}. {panel.line}
            </p>
            <p>{panel.beforehand[0]}</p>
            <p>{panel.poured}</p>
          </div>
          <div className="flex flex-wrap gap-2">
            {panel.i_pour ? (
              <Link
                to={`/taste/${panel.id}/pour`}
                className="act inline-flex min-h-11 items-center rounded-full border border-rim bg-rim px-5 font-bold text-on-rim"
              >
                The pourer's sheet
              </Link>
            ) : null}
            {canMake(session) ? (
              <>
                <a
                  href={`/api/panels/${panel.id}/sheets.pdf`}
                  target="_blank"
                  rel="noreferrer"
                  className="act inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 font-semibold text-rim"
                >
                  Sheets of paper
                </a>
                {panel.i_pour ? null : <p className="self-center text-[15px] text-soft">{panel.pourer} pours.</p>}
              </>
            ) : null}
            {panel.i_pour ? <Button onClick={() => setSheet("paper")}>Type a sheet in</Button> : null}
            {canLead(session) ? (
              <Button look="warn" onClick={() => setSheet("seal")}>
                Break the seal
              </Button>
            ) : null}
          </div>
        </section>
      </div>
      <BreakSeal panel={panel} open={sheet === "seal"} onClose={close} />
      {panel.i_pour ? <PaperSheet panel={panel} open={sheet === "paper"} onClose={close} /> : null}
    </main>
  );
}

/** A seal is broken before the last answer for a reason, which stands in the history. */
function BreakSeal({ panel, open, onClose }: { panel: Panel; open: boolean; onClose: () => void }) {
  const [why, setWhy] = useState("");
  const act = usePanelAct(
    () => unwrap(client.POST("/api/panels/{panel_id}/seal", { params: { path: { panel_id: panel.id } }, body: { why } })),
    onClose,
  );
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="Break the seal now?"
      about={`${panel.answered} of ${panel.of} are answered. What comes after is kept and not counted; nobody can be asked more.`}
    >
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          act.mutate();
        }}
      >
        <Field label="Why nobody waits for the rest" value={why} onChange={setWhy} placeholder="two did not come" />
        <Trouble error={act.error} />
        <Button look="warn" type="submit" disabled={act.isPending}>
          Break the seal
        </Button>
      </form>
    </Sheet>
  );
}
