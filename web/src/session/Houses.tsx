import { Button } from "../parts/Button";
import { Trouble } from "../parts/Notice";
import { useSession } from "./session";
import { useGoToHouse } from "./useGoToHouse";

/** The other houses that one is in; a press goes on there. Nothing where there is only this one. */
export function Houses({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const change = useGoToHouse(onClose);
  const others = (session.houses ?? []).filter((house) => house.id !== session.house_id);
  if (others.length === 0) return null;
  return (
    <fieldset className="mb-6">
      <legend className="mb-2 text-soft">Go on in another house</legend>
      <div className="flex flex-wrap gap-2">
        {others.map((house) => (
          <Button key={house.id} disabled={change.isPending} onClick={() => change.mutate(house.id)}>
            {house.name}
            <span className="font-normal text-soft">
              {house.role}
              {house.is_demo ? ", demo" : ""}
            </span>
          </Button>
        ))}
      </div>
      <Trouble error={change.error} />
    </fieldset>
  );
}
