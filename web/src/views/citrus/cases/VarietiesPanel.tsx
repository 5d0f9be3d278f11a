import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../../api/queries";
import { Choice } from "../../../parts/Choice";
import { figure, GAP } from "../../../parts/numbers";
import { Plate } from "../../../plate/Plate";

/** Before buying: where a fruit's juice stands on the plate, what one gives, beside all the others. */
export function VarietiesPanel() {
  const found = useQuery(ask.varieties());
  const [key, setKey] = useState("");
  const items = found.data ?? [];
  const item = items.find((each) => each.key === key) ?? items[0];
  if (!item) return null;
  const half = (range: { low: number; high: number }) => (range.high - range.low) / 2;
  return (
    <section className="tray p-4" aria-label="Before buying">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-[19px]">Before buying</h2>
        <Choice label="Fruit" value={item.key} onChange={setKey} options={items.map((each) => ({ value: each.key, label: each.name }))} />
      </div>
      <div className="max-w-[400px]">
        <Plate
          spot={{
            sugar: item.sugar_g_100ml.value,
            acid: item.acid_g_100ml.value,
            sugarHalf: half(item.sugar_g_100ml),
            acidHalf: half(item.acid_g_100ml),
          }}
          pins={items
            .filter((each) => each.key !== item.key)
            .map((each) => ({ name: each.name, sugar: each.sugar_g_100ml.value, acid: each.acid_g_100ml.value }))}
          flag={null}
        />
      </div>
      <p className="mt-1 text-[15px]">
        A fruit of {figure(item.piece_g, 0)}
        {GAP}g gives <b className="figures worked">{figure(item.juice_ml.value, 0)}</b>
        {GAP}mL ({figure(item.juice_ml.low, 0)} to {figure(item.juice_ml.high, 0)}), {figure(item.zest_g, 1)} (
        {figure(item.zest_range.low, 1)} to {figure(item.zest_range.high, 1)}){GAP}g of zest.{" "}
        {item.source === "record" ? `By ${item.cases} cases of this house.` : "Typical values: house measurements win."}
      </p>
    </section>
  );
}
