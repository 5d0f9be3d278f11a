import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { NotFetched, Shape } from "../../../parts/Notice";
import { moment } from "../../../parts/say";
import { useSession } from "../../../session/session";

const WAY = "inline-flex min-h-11 items-center rounded-full border border-rim px-4 font-semibold text-rim hover:bg-pick";
const LOOKS = { holds: "bg-ink text-enamel font-bold", gear: "bg-pick", ask: "italic text-soft", "": "" } as const;

/** Every drink of a day against every allergen: a table where there is room, and always each drink in words. */
export function AllergenSheet({ day }: { day: string }) {
  const session = useSession();
  const sheet = useQuery(ask.planAllergens(day));
  const { data } = sheet;
  return (
    <section className="tray mt-3.5 p-4 md:p-5" aria-label="Allergens of the menu">
      <div className="mb-2 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h2 className="text-[20px]">Allergens of the menu</h2>
          <p className="text-[15px] text-soft">
            Through every prep and over the gear that is shared{data ? `, as of ${moment(data.at, session.zone)}` : ""}.
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <a className={WAY} href={`/api/plan/allergens.pdf?day=${day}`} target="_blank" rel="noreferrer">
            Print the sheet
          </a>
          <a className={WAY} href={`/api/plan/allergens.csv?day=${day}`}>
            As a table
          </a>
        </div>
      </div>
      {sheet.isPending ? <Shape rows={4} /> : null}
      <NotFetched questions={[sheet]} />
      {data?.sheet.rows.length ? <Matrix sheet={data.sheet} /> : null}
      {data && !data.sheet.rows.length ? <p className="text-[15px]">No drink is on the menu on this day.</p> : null}
      <ul className="mt-3">
        {data?.sheet.rows.map((row) => (
          <li key={row.name} className="border-t border-line py-2 text-[15px]">
            <b>{row.name}.</b> {row.answer.words}
          </li>
        ))}
        {data?.failed.map((name) => (
          <li key={name} className="border-t border-line py-2 text-[15px]">
            <b>{name}.</b> <span className="text-warn">Its spec cannot be worked out: ask the lead.</span>
          </li>
        ))}
      </ul>
      {data ? <p className="mt-2 text-[14px] text-soft">{data.sheet.legend.join(" ")}</p> : null}
    </section>
  );
}

function Matrix({ sheet }: { sheet: Schemas["AllergenSheet"] }) {
  return (
    <table className="hidden w-full table-fixed border-collapse lg:table">
      <caption className="sr-only">Drinks against allergens</caption>
      <thead>
        <tr>
          <th scope="col" className="w-[22%] text-left text-[14px] font-normal text-soft">
            drink
          </th>
          {sheet.allergens.map((word) => (
            <th key={word} scope="col" className="h-28 align-bottom text-[14px] font-semibold">
              <span className="mx-auto block w-5 rotate-180 text-left [writing-mode:vertical-rl]">{word}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {sheet.rows.map((row) => (
          <tr key={row.name} className="border-t border-line">
            <th scope="row" className="py-2 pr-2 text-left text-[15px] font-bold">
              {row.name}
            </th>
            {row.marks.map((mark, n) => (
              <td key={sheet.allergens[n]} className="p-0.5 text-center text-[14px]">
                <span className={`block rounded-md py-1 ${LOOKS[mark]}`}>
                  {mark || <span className="sr-only">not written into it</span>}
                </span>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
