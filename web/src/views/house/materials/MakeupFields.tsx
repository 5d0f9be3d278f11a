import type { Schemas } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { ASKED, EMPTY, type Makeup, PER, WAYS, type Way } from "./makeup";
import { Rows } from "./Rows";

interface MakeupFieldsProps {
  made: Makeup;
  onChange: (made: Makeup) => void;
  choices: Schemas["MaterialChoices"];
  fault: (where: string) => string | undefined;
  /** Where it stands in the form: “makeup”, “makeup/parts/peel/makeup”. */
  where?: string;
}

/** What is in a material: by its label, by readings, by substance, or by its parts, each of which has a makeup of its own. */
export function MakeupFields({ made, onChange, choices, fault, where = "makeup" }: MakeupFieldsProps) {
  const inside = where !== "makeup";
  const ways = inside ? WAYS.filter(({ value }) => value !== "parts") : WAYS;
  const set = (change: Partial<Makeup>) => onChange({ ...made, ...change });
  const splits = made.by === "label" || made.by === "reading";
  const named = (keys: readonly string[]) =>
    choices.substances.filter(({ key }) => keys.includes(key)).map(({ key, words }) => ({ value: key, label: words }));
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-center gap-2">
        <Choice<Way>
          label={inside ? "How this part is known" : "How it is known"}
          value={made.by}
          options={ways}
          onChange={(by) => set({ by })}
        />
        {made.by === "label" ? (
          <Choice
            label="What the label is for"
            value={made.per}
            options={PER.map((per) => ({ value: per, label: `in ${per}` }))}
            onChange={(per) => set({ per })}
          />
        ) : null}
      </div>
      {splits ? (
        <div className="grid gap-3 sm:grid-cols-2">
          {ASKED[made.by as "label" | "reading"].map(({ name, label, unit }) => (
            <Field
              key={name}
              label={label}
              unit={unit}
              value={made.figures[name] ?? ""}
              fault={fault(`${where}/${name}`)}
              onChange={(text) => set({ figures: { ...made.figures, [name]: text } })}
            />
          ))}
        </div>
      ) : null}
      {splits ? (
        <div className="grid gap-3 sm:grid-cols-2">
          <Rows
            title="Which sugars; in even parts if nobody knows"
            unit="% of them"
            choices={named(choices.sugars)}
            rows={made.sugars}
            onChange={(sugars) => set({ sugars })}
            fault={(name) => fault(`${where}/sugar_split/${name}`)}
          />
          <Rows
            title="Which acids; citric if nobody knows"
            unit="% of them"
            choices={named(choices.acids)}
            rows={made.acids}
            onChange={(acids) => set({ acids })}
            fault={(name) => fault(`${where}/acid_split/${name}`)}
          />
          {[fault(`${where}/sugar_split`), fault(`${where}/acid_split`)].map((told) =>
            told ? (
              <p key={told} role="alert" className="text-[14px] font-semibold text-warn sm:col-span-2">
                {told}
              </p>
            ) : null,
          )}
        </div>
      ) : null}
      {made.by === "substance" ? (
        <Rows
          title="In 100 g; water is what is left"
          unit="g"
          choices={choices.substances.filter(({ key }) => key !== "water").map(({ key, words }) => ({ value: key, label: words }))}
          rows={made.substances.filter(({ name }) => name !== "water")}
          onChange={(substances) => set({ substances })}
          fault={(name) => fault(`${where}/g_per_100g/${name}`)}
        />
      ) : null}
      {made.by === "parts" ? <Parts made={made} set={set} choices={choices} fault={fault} where={where} /> : null}
      {[fault(where), fault(`${where}/g_per_100g`), fault(`${where}/parts`)].map((told) =>
        told ? (
          <p key={told} role="alert" className="text-[14px] font-semibold text-warn">
            {told}
          </p>
        ) : null,
      )}
      <Field
        label="Where that is known from"
        value={made.source}
        onChange={(source) => set({ source })}
        placeholder="the label, read today"
        maxLength={200}
      />
    </div>
  );
}

interface PartsProps extends Required<Omit<MakeupFieldsProps, "onChange">> {
  set: (change: Partial<Makeup>) => void;
}

function Parts({ made, set, choices, fault, where }: PartsProps) {
  const change = (at: number, part: Partial<Makeup["parts"][number]>) =>
    set({ parts: made.parts.map((other, n) => (n === at ? { ...other, ...part } : other)) });
  return (
    <>
      <p className="text-[14px] text-soft">
        Each part with its share of the weight, such as zest, peel, juice. A part that is called flesh is what is left, and has no share.
      </p>
      {made.parts.map((part, at) => (
        // A part has no name of its own until one is typed: its place in the list is who it is.
        // biome-ignore lint/suspicious/noArrayIndexKey: parts are neither sorted nor put in between
        <fieldset key={at} className="grid gap-3 rounded-xl border border-line p-3">
          <legend className="px-1 font-semibold">{part.name || "A part"}</legend>
          <div className="flex flex-wrap items-start gap-2">
            <Field className="w-44" label="Part" value={part.name} onChange={(name) => change(at, { name })} maxLength={40} />
            {part.name.trim() === "flesh" ? null : (
              <Field
                className="w-40"
                label="Share"
                unit="%"
                inputMode="decimal"
                value={part.amount}
                fault={fault(`${where}/parts/${part.name.trim()}/share`)}
                onChange={(amount) => change(at, { amount })}
              />
            )}
            <Button
              look="quiet"
              className="mt-6"
              onClick={() => set({ parts: made.parts.filter((_, n) => n !== at) })}
              aria-label={`Without ${part.name || "this part"}`}
            >
              Without
            </Button>
          </div>
          <MakeupFields
            made={part.makeup}
            onChange={(makeup) => change(at, { makeup })}
            choices={choices}
            fault={fault}
            where={`${where}/parts/${part.name.trim()}/makeup`}
          />
        </fieldset>
      ))}
      <Button
        className="justify-self-start"
        onClick={() => set({ parts: [...made.parts, { name: "", amount: "", makeup: { ...EMPTY, by: "substance" } }] })}
      >
        One more part
      </Button>
    </>
  );
}
