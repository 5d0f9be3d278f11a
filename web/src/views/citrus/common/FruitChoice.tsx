import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { Choice } from "../../../parts/Choice";

/** One of the citrus that Ulsek knows, the house's own first. */
export function FruitChoice({ value, onChange, label = "Fruit" }: { value: string; onChange: (key: string) => void; label?: string }) {
  const found = useQuery(ask.varieties());
  return (
    <div className="grid justify-items-start gap-1">
      <span className="text-[14px] text-soft">{label}</span>
      <Choice
        label={label}
        value={value}
        onChange={onChange}
        options={(found.data ?? []).map((item) => ({
          value: item.key,
          label: item.name,
          group: item.source === "record" ? "This house has had" : "By the tables",
        }))}
      />
    </div>
  );
}
