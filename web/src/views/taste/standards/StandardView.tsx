import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { faultsOf, restOf } from "../../../parts/faults";
import { PageNotFetched, Shape, Trouble } from "../../../parts/Notice";
import { typed } from "../../../parts/numbers";
import { Sheet } from "../../../parts/Sheet";
import { day } from "../../../parts/say";
import { canLead, canMake, useSession } from "../../../session/session";
import { DriftChart } from "./DriftChart";
import { heldWords } from "./standards";

type Standard = Schemas["StandardOut"];

/** A standard: what is held of it, how batches drift from it, and how it is made again. */
export function StandardView() {
  const { standard: id = "" } = useParams();
  const session = useSession();
  const found = useQuery(ask.standard(id));
  if (found.isPending) return <Shape rows={5} title="Taste" />;
  if (!found.data) return <PageNotFetched title="Taste" question={found} />;
  const { data } = found;
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <p className="text-soft">
        <Link to="/taste" className="inline-flex min-h-11 items-center font-semibold text-rim hover:underline">
          Taste
        </Link>{" "}
        · {data.code} · a standard of{" "}
        <Link to={`/specs/${data.spec}/versions`} className="inline-flex min-h-11 items-center font-semibold text-rim hover:underline">
          version {data.version}
        </Link>
      </p>
      <h1 className="mb-3 text-[30px]">{data.name}</h1>
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,7fr)_minmax(384px,4fr)]">
        <section className="tray grid gap-2 p-4 md:p-5 [&>*]:min-w-0" aria-label="Drift">
          <h2 className="text-[20px]">How batches stand beside it</h2>
          <p className="text-[17px] font-bold">{data.drift.words}</p>
          <DriftChart drift={data.drift} panels={data.panels} />
        </section>
        <section className="tray grid gap-2 p-4 md:p-5" aria-label="What is held">
          <p className="text-[20px] font-bold">{heldWords(data)}</p>
          {data.stop ? <p className="font-semibold text-warn">{data.stop}</p> : null}
          {data.until_reason ? <p className="text-soft">{data.until_reason}</p> : null}
          <p>
            It reads <b>{data.reads}</b>.
          </p>
          <p className="text-[15px] text-soft">
            kept by {data.made_by}, {day(data.made_at, session.zone)}
            {data.place ? `, ${data.place}` : ""}
            {data.lot ? (
              <>
                {", of "}
                <Link to={`/lots/${data.lot}`} className="inline-flex min-h-11 items-center font-semibold text-rim hover:underline">
                  {data.lot}
                </Link>
              </>
            ) : null}
          </p>
          {data.weights.length ? <Weights standard={data} /> : null}
          {data.ended_at ? null : <Acts standard={data} may={{ lead: canLead(session), make: canMake(session) }} />}
          {data.makings.length ? (
            <ul className="text-[15px]">
              {data.makings.map((made) => (
                <li key={made.at} className="border-t border-line py-1.5">
                  {day(made.at, session.zone)}: <b>{made.read}</b>, by {made.by}, good until {day(made.until)}
                </li>
              ))}
            </ul>
          ) : null}
        </section>
      </div>
    </main>
  );
}

function Weights({ standard }: { standard: Standard }) {
  return (
    <div className="border-t border-line pt-2">
      <p className="font-semibold">Made again by weight, as its card says:</p>
      <ul className="text-[17px]">
        {standard.weights.map((weight) => (
          <li key={weight}>{weight}</li>
        ))}
      </ul>
    </div>
  );
}

const BLANK = { brix_reading: "", acid_g_100ml: "", why: "" };

function Acts({ standard, may }: { standard: Standard; may: { lead: boolean; make: boolean } }) {
  const queries = useQueryClient();
  const [open, setOpen] = useState<"made" | "end" | null>(null);
  const [form, setForm] = useState(BLANK);
  const path = { params: { path: { standard_id: standard.id } } };
  const act = useMutation({
    mutationFn: (kind: "made" | "portion" | "end") => {
      if (kind === "portion") return unwrap(client.POST("/api/standards/{standard_id}/portion", path));
      if (kind === "end") return unwrap(client.POST("/api/standards/{standard_id}/end", { ...path, body: { why: form.why } }));
      const body = { brix_reading: typed(form.brix_reading), acid_g_100ml: typed(form.acid_g_100ml) };
      return unwrap(client.POST("/api/standards/{standard_id}/made", { ...path, body }));
    },
    onSuccess: (next) => {
      queries.setQueryData(ask.standard(standard.id).queryKey, next);
      void queries.invalidateQueries({ queryKey: ["standards", "list"] });
      setOpen(null);
      setForm(BLANK);
    },
  });
  const faults = faultsOf(act.error);
  const field = (name: keyof typeof BLANK) => ({
    value: form[name],
    onChange: (value: string) => setForm((before) => ({ ...before, [name]: value })),
    fault: faults[name],
  });
  return (
    <>
      <div className="flex flex-wrap gap-2">
        {may.make && standard.portions === null ? (
          <Button look="main" onClick={() => setOpen("made")}>
            It is made again
          </Button>
        ) : null}
        {may.make && standard.portions ? (
          <Button disabled={act.isPending || standard.stop !== ""} onClick={() => act.mutate("portion")}>
            Take a portion
          </Button>
        ) : null}
        {may.lead ? (
          <Button look="quiet" onClick={() => setOpen("end")}>
            End it
          </Button>
        ) : null}
      </div>
      {open ? null : <Trouble error={act.error} />}
      <Sheet
        open={open !== null}
        onClose={() => setOpen(null)}
        title={open === "end" ? "It is a standard no more" : "Made again"}
        about={
          open === "end" ? "What was tasted against it stays." : `The standard reads ${standard.reads}. One of the two readings will do.`
        }
      >
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (open) act.mutate(open);
          }}
        >
          {open === "end" ? (
            <Field label="Why" placeholder="faded, spilled, the recipe is another now" {...field("why")} />
          ) : (
            <div className="grid grid-cols-2 gap-3">
              <Field label="It reads" unit="°Bx" inputMode="decimal" {...field("brix_reading")} />
              <Field label="Its acid" unit="g/100 mL" inputMode="decimal" {...field("acid_g_100ml")} />
            </div>
          )}
          <Trouble error={restOf(act.error, ["why", "brix_reading", "acid_g_100ml"])} />
          <Button look={open === "end" ? "warn" : "main"} type="submit" disabled={act.isPending}>
            {open === "end" ? "End it" : "It reads so"}
          </Button>
        </form>
      </Sheet>
    </>
  );
}
