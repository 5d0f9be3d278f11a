import { RadioGroup } from "radix-ui";

interface GlassesProps {
  label: string;
  options: readonly { value: string; name: string }[];
  value: string | null;
  onChange: (value: string) => void;
}

/** The glasses in the order in which they stand; one of them is chosen, none beforehand. */
export function Glasses({ label, options, value, onChange }: GlassesProps) {
  return (
    <RadioGroup.Root aria-label={label} value={value ?? ""} onValueChange={onChange} className="grid gap-3 pt-2">
      {options.map((option) => (
        <RadioGroup.Item
          key={option.value}
          value={option.value}
          className="figures flex min-h-[72px] items-center justify-between rounded-[16px] border-2 border-rim px-5 text-[28px] font-bold text-rim data-[state=checked]:bg-rim data-[state=checked]:text-on-rim"
        >
          {option.name}
          <span className="font-text text-[17px] [word-spacing:normal]">{value === option.value ? "this one" : ""}</span>
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
