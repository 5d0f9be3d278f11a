import { useId } from "react";
import { LAW_PLACES } from "../api/rules";
import { Choice } from "./Choice";
import { Field } from "./Field";
import type { HouseTyped } from "./houseFields";

const PLACE_WORDS: Readonly<Record<string, string>> = { EU: "European Union", UK: "United Kingdom", US: "United States" };
/** Whose food law a name is judged by. */
const PLACES = [
  { value: "all", label: "judged by every rule that ships" },
  ...LAW_PLACES.map((place) => ({ value: place, label: PLACE_WORDS[place] ?? place })),
];
const CURRENCIES = ["EUR", "GBP", "USD", "CHF", "SEK", "NOK", "DKK", "PLN", "CZK", "AUD", "CAD", "NZD", "JPY", "SGD", "MXN", "BRL", "ZAR"];

export interface HouseFieldsProps {
  house: HouseTyped;
  onChange: (house: HouseTyped) => void;
  /** What is wrong, in words, by the name of the part. */
  faults: Readonly<Record<string, string>>;
  /** Only what a house cannot be opened without. */
  part: "who" | "where" | "when";
}

/** What a house is, each with what it changes. */
export function HouseFields({ house, onChange, faults, part }: HouseFieldsProps) {
  const list = useId();
  const set = (name: keyof HouseTyped) => (value: string) => onChange({ ...house, [name]: value });
  if (part === "who") {
    return (
      <div className="grid gap-3 sm:grid-cols-[minmax(0,1fr)_9rem]">
        <Field label="Name of the house" value={house.name} onChange={set("name")} fault={faults.name} maxLength={80} required />
        <Field
          label="Currency"
          value={house.currency}
          onChange={set("currency")}
          fault={faults.currency}
          list={`${list}-money`}
          maxLength={3}
          required
        />
        <datalist id={`${list}-money`}>
          {CURRENCIES.map((code) => (
            <option key={code} value={code} />
          ))}
        </datalist>
      </div>
    );
  }
  if (part === "where") {
    return (
      <div className="grid gap-3 sm:grid-cols-2">
        <div>
          <Field label="Time zone" value={house.zone} onChange={set("zone")} fault={faults.zone} list={`${list}-zones`} required />
          <datalist id={`${list}-zones`}>
            {Intl.supportedValuesOf("timeZone").map((zone) => (
              <option key={zone} value={zone} />
            ))}
          </datalist>
          <Says>Every date and time is shown on this clock.</Says>
        </div>
        <div>
          <Field
            label="Height above the sea"
            unit="m"
            inputMode="decimal"
            placeholder="650"
            value={house.altitude}
            onChange={set("altitude")}
            fault={faults.altitude_m}
          />
          <Says>Water boils a degree cooler for every 300 m. Left empty, you are asked once.</Says>
        </div>
        <div className="sm:col-span-2">
          <p className="mb-1 text-[14px] text-soft">Whose food law</p>
          <Choice
            label="Whose food law"
            value={house.place || "all"}
            options={PLACES}
            onChange={(next) => onChange({ ...house, place: next === "all" ? "" : next })}
          />
          <Says>
            Names such as “alcohol-free” and “juice” are judged by it. Limits of strong materials stay at the strictest that ships; ask your
            own authority.
          </Says>
        </div>
      </div>
    );
  }
  return (
    <div className="grid gap-3 sm:grid-cols-3">
      <Field label="Service begins" type="time" value={house.service_from} onChange={set("service_from")} fault={faults.service_from} />
      <Field label="Service ends" type="time" value={house.service_until} onChange={set("service_until")} fault={faults.service_until} />
      <Field label="The day turns at" type="time" value={house.day_turns} onChange={set("day_turns")} fault={faults.day_turns} />
      <div className="sm:col-span-3">
        <Says>
          Service is drawn on the clock strip of Shift. What is made after midnight counts for the evening until the day turns, and a bottle
          dated for that evening may be poured until then.
        </Says>
      </div>
    </div>
  );
}

function Says({ children }: { children: React.ReactNode }) {
  return <p className="mt-1 text-[14px] text-soft">{children}</p>;
}
