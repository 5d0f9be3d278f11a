import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { NotFetched, Trouble } from "../../../parts/Notice";
import { day } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { useGoToHouse } from "../../../session/useGoToHouse";

/** The houses of the group; for who leads it, what stands in each, and the way there. */
export function GroupHouses({ group }: { group: Schemas["GroupOut"] }) {
  const rows = useQuery({ ...ask.groupHouses(), enabled: group.mine });
  return (
    <section className="tray p-5" aria-label="Houses of the group">
      <h2 className="mb-2 text-[20px]">{group.name}</h2>
      <NotFetched questions={[rows]} />
      <ul>
        {group.mine
          ? rows.data?.map((row) => <HouseLine key={row.id} row={row} />)
          : group.houses.map((name) => (
              <li key={name} className="border-t border-line py-3">
                <b>{name}</b>
              </li>
            ))}
      </ul>
      {group.mine ? <OneMore open={group.code_open} /> : null}
    </section>
  );
}

function HouseLine({ row }: { row: Schemas["GroupHouseOut"] }) {
  const { house_id: here, zone } = useSession();
  const change = useGoToHouse();
  return (
    <li className="grid gap-1 border-t border-line py-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <b className="text-[17px]">{row.name}</b>
        {row.id === here ? (
          <span className="text-[14px] text-soft">you are here</span>
        ) : (
          <Button disabled={change.isPending} onClick={() => change.mutate(row.id)} aria-label={`Go to ${row.name}`}>
            Go there
          </Button>
        )}
      </div>
      <p className="text-[15px] text-soft">
        {row.published} published · {row.under_way} under way · {row.soon} turning soon
        {row.last_started ? ` · last started ${day(row.last_started, zone)}` : " · nothing started yet"}
      </p>
      {row.past ? <p className="font-semibold text-warn">{row.past} past their last day</p> : null}
      {row.behind ? (
        <p className="font-semibold">
          {row.behind} {row.behind === 1 ? "copy" : "copies"} behind the spec that it follows
        </p>
      ) : null}
      <Trouble error={change.error} />
    </li>
  );
}

/** A code for one more house, shown once. */
function OneMore({ open }: { open: boolean }) {
  const queries = useQueryClient();
  const make = useMutation({
    mutationFn: () => unwrap(client.POST("/api/group/code")),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ask.group().queryKey, exact: true }),
  });
  return (
    <div className="border-t border-line pt-3">
      {make.data ? (
        <p role="status" className="mb-3 rounded-xl bg-quiet p-3">
          Tell it to the lead of one more house: <b className="figures block text-[22px]">{make.data.code}</b>
          It works once, within a week, and is not shown again.
        </p>
      ) : null}
      <Trouble error={make.error} />
      <Button disabled={make.isPending} onClick={() => make.mutate()}>
        {open && !make.data ? "A new code for one more house" : "A code for one more house"}
      </Button>
      {open && !make.data ? <p className="mt-1 text-[14px] text-soft">One is open; a new one ends it.</p> : null}
    </div>
  );
}
