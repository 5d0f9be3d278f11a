import { getNonce } from "get-nonce";
import { Select } from "radix-ui";
import { useState } from "react";

export interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; label: string; group?: string }[];
  onChange: (value: T) => void;
  disabled?: boolean;
  size?: "usual" | "bench";
}

/** Options under their group's heading, in the order they come; those without a group stand alone. */
function grouped<O extends { group?: string }>(options: readonly O[]): [string, O[]][] {
  const groups = new Map<string, O[]>();
  for (const option of options) groups.set(option.group ?? "", [...(groups.get(option.group ?? "") ?? []), option]);
  return [...groups];
}

/** One of a few. */
export function Choice<T extends string>({ label, value, options, onChange, disabled = false, size = "usual" }: ChoiceProps<T>) {
  const [open, setOpen] = useState(false);
  return (
    <Select.Root value={value} onValueChange={(next) => onChange(next as T)} disabled={disabled} open={open} onOpenChange={setOpen}>
      <Select.Trigger
        aria-label={label}
        className={`inline-flex items-center justify-between gap-2 rounded-xl border border-line bg-enamel px-3 ${size === "bench" ? "h-16 text-[18px]" : "h-11 text-[15px]"}`}
      >
        {/* The options are drawn when it opens, and not at every keystroke beside it. */}
        <Select.Value placeholder="choose …">{options.find((option) => option.value === value)?.label ?? "choose …"}</Select.Value>
        <Select.Icon aria-hidden="true" className="text-soft">
          ▾
        </Select.Icon>
      </Select.Trigger>
      {open ? (
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            className="tray z-[60] max-h-[min(440px,var(--radix-select-content-available-height))] overflow-hidden p-1 shadow-lg"
          >
            <Select.Viewport nonce={getNonce()}>
              {grouped(options).map(([group, members]) => (
                <Select.Group key={group}>
                  {group ? <Select.Label className="px-3 pt-3 pb-1 text-[14px] text-soft">{group}</Select.Label> : null}
                  {members.map((option) => (
                    <Select.Item
                      key={option.value}
                      value={option.value}
                      className="flex min-h-11 cursor-pointer items-center rounded-lg px-3 text-[15px] outline-none data-[highlighted]:bg-pick data-[state=checked]:font-bold"
                    >
                      <Select.ItemText>{option.label}</Select.ItemText>
                    </Select.Item>
                  ))}
                </Select.Group>
              ))}
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      ) : null}
    </Select.Root>
  );
}
