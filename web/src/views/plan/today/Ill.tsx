import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { NotFetched, Trouble } from "../../../parts/Notice";
import { Sheet } from "../../../parts/Sheet";
import { useList } from "./useList";

/** Who is not in today. Nobody is asked why. */
export function Ill({ open, onClose, day }: { open: boolean; onClose: () => void; day: string }) {
  const people = useQuery({ ...ask.planPeople(), enabled: open });
  const { goAway, comeBack } = useList();
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="Who is not in today?"
      about="The list is sorted anew at once. Why somebody is away is asked nowhere."
    >
      <ul>
        {people.data?.map((one) => {
          const away = one.away.find((item) => item.first <= day && day <= item.last);
          return (
            <li key={one.person} className="flex min-h-14 items-center justify-between gap-3 border-t border-line first:border-t-0">
              <span className="text-[17px] font-semibold">
                {one.name}
                {one.week ? null : <span className="block text-[14px] font-normal text-soft">no hours are written down</span>}
              </span>
              {away ? (
                <Button look="main" onClick={() => comeBack.mutate(away.id)}>
                  {one.name} is in after all
                </Button>
              ) : (
                <Button onClick={() => goAway.mutate(one.person)}>{one.name} is away</Button>
              )}
            </li>
          );
        })}
      </ul>
      <NotFetched questions={[people]} />
      <Trouble error={goAway.error ?? comeBack.error} />
    </Sheet>
  );
}
