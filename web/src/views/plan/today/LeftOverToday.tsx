import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import { span } from "../../../parts/say";
import { useMoney } from "../../../session/session";
import { bottles, type Today, volume } from "./lines";
import { useList } from "./useList";

/** What today leaves over, who could take it, with its minutes beside what it saves; one press puts it on the list. */
export function LeftOverToday({ today, may }: { today: Today; may: boolean }) {
  const money = useMoney();
  const { decide } = useList();
  if (!today.left_over.length) return null;
  return (
    <section className="tray mt-3.5 p-4" aria-label="Left over today">
      <h2 className="mb-1 text-[20px]">Left over today</h2>
      <ul className="grid gap-x-6 lg:grid-cols-2">
        {today.left_over.map((one) => (
          <li key={`${one.key} ${one.source} ${one.at}`} className="border-t border-line py-2">
            <p className="flex flex-wrap justify-between gap-x-3 text-[16px]">
              <b className="inline-block first-letter:uppercase">{one.name}</b>
              <span className="figures">{one.volume_ml ? volume(one.volume_ml) : `${figure(one.mass_g, 0)}${GAP}g`}</span>
            </p>
            <p className="text-[14px] text-soft">{one.said}</p>
            {one.takers.length ? null : <p className="text-[15px]">{one.offer}.</p>}
            <ul>
              {one.takers.slice(0, 3).map((taker) => (
                <li key={taker.key} className="flex min-h-11 flex-wrap items-center justify-between gap-x-3 gap-y-1 text-[15px]">
                  <span>
                    {taker.name}, {bottles(taker.bottles)}
                    <span className="text-soft">
                      {" "}
                      · {span(taker.minutes * 60_000)}
                      {taker.saves === null ? "" : ` · saves ${money(taker.saves)}`}
                    </span>
                  </span>
                  {taker.is_listed ? (
                    <span className="text-soft">on the list</span>
                  ) : may ? (
                    <Button
                      aria-label={`Put ${taker.name} on the list for ${one.name}`}
                      disabled={decide.isPending}
                      onClick={() =>
                        decide.mutate({ spec: today.preps[taker.key]?.spec ?? "", wish: { extra: true, bottles: taker.bottles } })
                      }
                    >
                      Put it on the list
                    </Button>
                  ) : null}
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
      <Trouble error={decide.error} />
    </section>
  );
}
