import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, expectOk, unwrap } from "../../../api/client";
import { FIGURES } from "../../../api/figures";
import { type Instrument, tell, useInstruments } from "../../../instruments/useInstruments";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { Empty, Trouble } from "../../../parts/Notice";
import { figure } from "../../../parts/numbers";
import { canLead, canMake, useSession } from "../../../session/session";

const KINDS = {
  scale: { word: "scale", shows: "mass_g", hands: ["put 0", "pour 250 3", "pour 25 1", "lift"] },
  refractometer: { word: "refractometer", shows: "brix_reading", hands: ["set 12.4", "set 50.1"] },
  ph_meter: { word: "pH meter", shows: "ph", hands: ["set 3.2", "buffer"] },
  thermometer: { word: "thermometer", shows: "temperature_c", hands: ["set 20", "ramp 85 30", "ramp 4 60"] },
  titrator: { word: "titrator", shows: "naoh_ml", hands: ["sample 2.4 10"] },
  label_printer: { word: "label printer", shows: null, hands: ["paper out", "paper in", "printed"] },
} as const;
type Kind = keyof typeof KINDS;
const SHAKES = ["noise 0.3", "noise 0", "drift 2", "drift 0", "drop 5", "garbage 5"];

/** The instruments on cables: what each shows now, and in the demo house the hand that moves the simulated ones. */
export function InstrumentsView() {
  const session = useSession();
  const { items, hands } = useInstruments();
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <Link to="/make" className="inline-flex min-h-11 items-center font-semibold text-rim">
        ← Make
      </Link>
      <h1 className="mb-3 text-[32px]">Instruments</h1>
      {items.length === 0 ? (
        <Empty title="No instrument is connected">Typing a reading always works. A lead connects a scale here.</Empty>
      ) : null}
      <div className="grid gap-4 md:grid-cols-2 xl:grid-cols-3">
        {items.map((item) => (
          <Card key={item.id} item={item} hands={hands && canMake(session)} lead={canLead(session)} />
        ))}
      </div>
      {canLead(session) ? <Connect /> : null}
    </main>
  );
}

/** What an instrument shows, or that it does not. */
function words({ kind, shown }: Instrument): string {
  if (shown === null) return "–";
  if (shown.state === "lost") return "lost";
  if (shown.value === null) return shown.property ? "over" : "–";
  const reads = KINDS[kind as Kind].shows;
  return figure(shown.value, (reads && FIGURES[reads].decimals) ?? 1);
}

function Card({ item, hands, lead }: { item: Instrument; hands: boolean; lead: boolean }) {
  const queries = useQueryClient();
  const kind = KINDS[item.kind as Kind];
  const { shown } = item;
  const lost = shown?.state === "lost";
  const move = useMutation({
    mutationFn: (words: string) =>
      unwrap(client.POST("/api/instruments/{instrument}/hand", { params: { path: { instrument: item.id } }, body: { words } })),
  });
  const away = useMutation({
    mutationFn: () => expectOk(client.DELETE("/api/instruments/{instrument}", { params: { path: { instrument: item.id } } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["instruments"] }),
  });
  return (
    <section className="tray grid content-start gap-3 p-5" aria-label={item.name}>
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-[22px]">{item.name}</h2>
        <span className="text-[14px] text-soft">{kind.word}</span>
      </div>
      {item.kind === "label_printer" ? (
        <p className="text-soft">Prints when it is told to.</p>
      ) : (
        <p className={`font-head text-[44px] leading-none font-bold ${lost ? "text-warn" : ""}`} role="status">
          {words(item)}
          <span className="ml-2 text-[18px] font-normal text-soft">
            {lost ? "looked for every second" : kind.shows && FIGURES[kind.shows].unit}
          </span>
        </p>
      )}
      {shown?.value != null && !lost ? (
        <p className="text-soft">
          {shown.steady ? "steady" : "moving"}
          {item.kind === "ph_meter" ? (shown.checked ? ", checked in its buffers" : ", not checked in its buffers") : ""}
        </p>
      ) : null}
      <p className="figures text-[14px] text-soft">
        {item.address}
        {shown?.ignored ? ` · ${shown.ignored} lines made no sense` : ""}
      </p>
      <div className="flex flex-wrap gap-2">
        {item.kind === "scale" ? <Button onClick={() => void tell(item.id, "tare")}>Tare</Button> : null}
        {item.kind === "titrator" ? <Button onClick={() => void tell(item.id, "run")}>Run</Button> : null}
        {lead ? (
          <Button look="warn" onClick={() => away.mutate()}>
            Take it away
          </Button>
        ) : null}
      </div>
      <Trouble error={away.error} />
      {hands && item.address.startsWith("socket://127.0.0.1:") ? (
        <details>
          <summary className="min-h-11 cursor-pointer py-2 font-semibold text-rim">Simulated: move it by hand</summary>
          <div className="flex flex-wrap gap-2">
            {[...kind.hands, ...(item.kind === "label_printer" ? [] : SHAKES)].map((words) => (
              <Button key={words} look="quiet" className="border border-line" onClick={() => move.mutate(words)}>
                {words}
              </Button>
            ))}
          </div>
          {move.data && move.data.answer !== "done" ? <p className="figures mt-2 text-[14px] break-words">{move.data.answer}</p> : null}
          <Trouble error={move.error} />
        </details>
      ) : null}
    </section>
  );
}

/** A lead connects an instrument by its address. */
function Connect() {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [kind, setKind] = useState<Kind>("scale");
  const [address, setAddress] = useState("");
  const connect = useMutation({
    mutationFn: () => unwrap(client.POST("/api/instruments", { body: { name, kind, address } })),
    onSuccess: () => {
      setName("");
      setAddress("");
      void queries.invalidateQueries({ queryKey: ["instruments"] });
    },
  });
  return (
    <form
      className="tray mt-4 flex flex-wrap items-end gap-3 p-5"
      aria-label="Connect an instrument"
      onSubmit={(event) => {
        event.preventDefault();
        connect.mutate();
      }}
    >
      <Field label="Name" value={name} onChange={setName} placeholder="bench scale" />
      <Choice
        label="Kind"
        value={kind}
        options={(Object.keys(KINDS) as Kind[]).map((value) => ({ value, label: KINDS[value].word }))}
        onChange={setKind}
      />
      <Field label="Address" value={address} onChange={setAddress} placeholder="/dev/ttyUSB0" />
      <Button type="submit" look="main" disabled={connect.isPending}>
        Connect
      </Button>
      <Trouble error={connect.error} />
    </form>
  );
}
