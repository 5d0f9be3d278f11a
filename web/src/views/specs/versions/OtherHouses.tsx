import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Trouble } from "../../../parts/Notice";
import { listed } from "../../../parts/say";
import { useSession } from "../../../session/session";

const WAYS = [
  { value: "follow", label: "follows this one" },
  { value: "fork", label: "goes its own way" },
] as const;

/** This spec in the other houses that one leads: copied there, followed there, brought up to date. Nothing for who leads no other house. */
export function OtherHouses({ spec, newest }: { spec: string; newest: number }) {
  const session = useSession();
  const led = (session.houses ?? []).filter((house) => house.role === "lead" && house.id !== session.house_id);
  const rows = useQuery({ ...ask.followers(spec), enabled: led.length > 0 }).data ?? [];
  if (led.length === 0 || newest === 0) return null;
  const open = led.filter((house) => !rows.some((row) => row.house_id === house.id));
  return (
    <section className="tray p-5" aria-label="In other houses">
      <h2 className="mb-2 text-[20px]">In other houses</h2>
      <Followers spec={spec} newest={newest} rows={rows} />
      <CopyThere spec={spec} newest={newest} houses={open.map((house) => ({ value: String(house.id), label: house.name }))} />
    </section>
  );
}

function Followers({ spec, newest, rows }: { spec: string; newest: number; rows: readonly Schemas["FollowerOut"][] }) {
  const queries = useQueryClient();
  const take = useMutation({
    mutationFn: (copy_id: string) =>
      unwrap(client.POST("/api/specs/{spec_id}/followers/{copy_id}/take", { params: { path: { spec_id: spec, copy_id } } })),
    onSuccess: (now) => queries.setQueryData(ask.followers(spec).queryKey, now),
  });
  return (
    <>
      <ul>
        {rows.map((row) => (
          <li key={row.spec} className="flex flex-wrap items-center justify-between gap-2 border-t border-line py-2">
            <p>
              <b>{row.house}</b> follows it
              <span className="block text-[14px] text-soft">{row.number < newest ? `has version ${row.number}` : "has the newest"}</span>
            </p>
            {row.number < newest ? (
              <Button disabled={take.isPending} onClick={() => take.mutate(row.spec)}>
                Bring it to version {newest}
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
      <Trouble error={take.error} />
    </>
  );
}

interface CopyProps {
  spec: string;
  newest: number;
  houses: readonly { value: string; label: string }[];
}

function CopyThere({ spec, newest, houses }: CopyProps) {
  const queries = useQueryClient();
  const [chosen, setHouse] = useState("");
  const house = houses.some(({ value }) => value === chosen) ? chosen : houses[0]?.value;
  const [way, setWay] = useState<(typeof WAYS)[number]["value"]>("follow");
  const copy = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/specs/{spec_id}/versions/{number}/copy", {
          params: { path: { spec_id: spec, number: newest } },
          body: { house: Number(house), followed: way === "follow" },
        }),
      ),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ask.followers(spec).queryKey }),
  });
  const done = copy.data;
  return (
    <>
      {done ? (
        <p role="status" className="mb-3 rounded-xl bg-quiet p-3 text-[15px]">
          {done.name} stands at {done.house}, {done.published ? "published" : "as a draft"}.
          {done.also.length ? ` With it came ${listed(done.also)}.` : ""}
          {done.held_up ? <span className="block font-semibold text-warn">It could not be published there: {done.held_up}</span> : null}
        </p>
      ) : null}
      {house === undefined ? null : (
        <form
          className="grid gap-3 border-t border-line pt-3"
          onSubmit={(event) => {
            event.preventDefault();
            copy.mutate();
          }}
        >
          <div className="flex flex-wrap gap-2">
            <Choice label="Copy it into" value={house} options={houses} onChange={setHouse} />
            <Choice label="The copy" value={way} options={WAYS} onChange={setWay} />
          </div>
          <Trouble error={copy.error} />
          <Button type="submit" className="justify-self-start" disabled={copy.isPending}>
            Copy version {newest}
          </Button>
        </form>
      )}
    </>
  );
}
