import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../../api/queries";
import { Field } from "../../../parts/Field";
import { Empty, NotFetched, Notice, Shape } from "../../../parts/Notice";
import { HotFilling } from "./HotFilling";
import { HouseWords } from "./HouseWords";
import { RuleLine } from "./RuleLine";
import { found } from "./rules";
import { TastedDates } from "./TastedDates";

/** What the house goes by: limits, keeping, names. Each rule with its source; stricter is always allowed, looser takes somebody's word. */
export function RulesPart() {
  const sheet = useQuery(ask.ruleSheet());
  const [find, setFind] = useState("");
  if (sheet.isPending) return <Shape rows={8} />;
  const tables = found(sheet.data?.tables ?? [], find);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
      <Notice severity="check">
        These are the usual cautions, not the law of your place. Your own authority decides; write here what it told you. Published specs
        are judged by a new rule at once; batches under way keep the one they began with.
      </Notice>
      <Field label="Find a rule" value={find} onChange={setFind} placeholder="quinine, juice, alcohol-free …" className="max-w-md" />
      <NotFetched questions={[sheet]} />
      {sheet.data && tables.length === 0 ? <Empty title="No rule is called so">Look for another word of it.</Empty> : null}
      {tables.map((table) => (
        <section key={table.key} className="tray p-5" aria-label={table.title}>
          <h2 className="text-[20px]">{table.title}</h2>
          <p className="mb-2 text-soft">{table.about}</p>
          <ul>
            {table.rows.map((rule) => (
              <RuleLine key={rule.key} table={table} rule={rule} />
            ))}
          </ul>
        </section>
      ))}
      {sheet.data && !find.trim() ? (
        <>
          <TastedDates rows={sheet.data.spec_quality} />
          <HotFilling procedures={sheet.data.procedures} />
          <HouseWords words={sheet.data.words} />
        </>
      ) : null}
    </div>
  );
}
