import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Empty, NotFetched, Trouble } from "../../../parts/Notice";
import { figure, GAP, typed } from "../../../parts/numbers";
import { day } from "../../../parts/say";
import { canMake, useSession } from "../../../session/session";

/** What is used again and again: what it weighs empty, what was in it last, when it was cleaned and by whom. */
export function ContainersView() {
  const session = useSession();
  const containers = useQuery(ask.containers());
  return (
    <main className="mx-auto max-w-4xl p-4 md:p-5">
      <Link to="/make" className="inline-flex min-h-11 items-center font-semibold text-rim">
        ← Make
      </Link>
      <h1 className="mb-3 text-[32px]">Containers</h1>
      <NotFetched questions={[containers]} />
      <section className="tray p-5" aria-label="Containers">
        {containers.data?.length === 0 ? (
          <Empty title="No container is described">Weigh a tub empty once, and every weight in it is net from then on.</Empty>
        ) : null}
        <ul>
          {containers.data?.map((item) => (
            <Row key={item.id} item={item} may={canMake(session)} zone={session.zone} />
          ))}
        </ul>
        {canMake(session) ? <NewContainer /> : null}
      </section>
    </main>
  );
}

function Row({ item, may, zone }: { item: Schemas["ContainerOut"]; may: boolean; zone: string }) {
  const queries = useQueryClient();
  const clean = useMutation({
    mutationFn: () => unwrap(client.POST("/api/containers/{key}/cleaned", { params: { path: { key: item.id } } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["containers"] }),
  });
  return (
    <li className="grid min-h-16 grid-cols-[1fr_auto] items-center gap-x-4 border-b border-line py-2 sm:grid-cols-[1.2fr_8.5rem_1.6fr_auto]">
      <span className="text-[18px] font-bold">{item.name}</span>
      <span className="figures was-read text-right">
        {figure(item.tare_g)}
        {GAP}g empty
      </span>
      <span className="text-soft max-sm:col-span-2">
        {item.holds ? (
          <Link to={`/lots/${item.holds}`} className="inline-flex min-h-11 items-center font-semibold text-rim underline">
            holds {item.last_contents}
          </Link>
        ) : item.cleaned_at ? (
          `cleaned ${day(item.cleaned_at, zone)} by ${item.cleaned_by}${item.last_contents ? `, after ${item.last_contents.toLowerCase()}` : ""}`
        ) : (
          <b className="text-warn">not cleaned{item.last_contents ? ` since ${item.last_contents.toLowerCase()}` : " yet"}</b>
        )}
        {!item.cleaned_at && item.last_allergens.length ? <b className="text-warn"> · {item.last_allergens.join(", ")}</b> : null}
      </span>
      {may ? (
        <Button onClick={() => clean.mutate()} disabled={clean.isPending} aria-label={`${item.name} is empty and clean`}>
          Empty and clean
        </Button>
      ) : null}
    </li>
  );
}

function NewContainer() {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const [tare, setTare] = useState("");
  const [room, setRoom] = useState("");
  const grams = typed(tare);
  const keep = useMutation({
    mutationFn: () => unwrap(client.POST("/api/containers", { body: { name, tare_g: grams ?? 0, capacity_ml: typed(room) } })),
    onSuccess: () => {
      setName("");
      setTare("");
      setRoom("");
      void queries.invalidateQueries({ queryKey: ["containers"] });
    },
  });
  return (
    <form
      className="mt-4 flex flex-wrap items-end gap-3"
      aria-label="A new container"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <Field label="Name" value={name} onChange={setName} placeholder="white tub 4" />
      <Field label="Weighs empty" unit="g" inputMode="decimal" value={tare} onChange={setTare} />
      <Field label="Holds, if known" unit="mL" inputMode="decimal" value={room} onChange={setRoom} />
      <Button type="submit" look="main" disabled={!name.trim() || grams === null || keep.isPending}>
        Keep it
      </Button>
      <Trouble error={keep.error} />
    </form>
  );
}
