import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../api/queries";
import { Button, type ButtonProps } from "./Button";
import { Field } from "./Field";
import { Sheet } from "./Sheet";
import { useMaterials } from "./useMaterials";

const MOST = 14;

interface MaterialPickerProps {
  label: string;
  size?: ButtonProps["size"];
  onPick: (key: string, name: string) => void;
}

/** Choose what goes in: the house's deliveries first, then everything that Ulsek knows. */
export function MaterialPicker({ onPick, label, size = "usual" }: MaterialPickerProps) {
  const [open, setOpen] = useState(false);
  const [wanted, setWanted] = useState("");
  const materials = useMaterials(wanted.trim(), open);
  const stock = useQuery({ ...ask.stock(), enabled: open });
  const inHouse = new Set(stock.data?.map((item) => item.material));
  const found = materials.data ?? [];
  const pick = ({ key, name }: { key: string; name: string }) => {
    setOpen(false);
    setWanted("");
    onPick(key, name);
  };
  return (
    <>
      <Button size={size} onClick={() => setOpen(true)}>
        {label}
      </Button>
      <Sheet open={open} onClose={() => setOpen(false)} title="What goes in?" about="What the house has stands first.">
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (found[0]) pick(found[0]);
          }}
        >
          <Field label="Name of the material" value={wanted} onChange={setWanted} autoFocus />
        </form>
        <ul className="mt-3">
          {found.slice(0, MOST).map((item) => (
            <li key={item.key}>
              <button
                type="button"
                onClick={() => pick(item)}
                className="flex min-h-11 w-full items-baseline justify-between gap-3 rounded-lg px-2 text-left hover:bg-pick"
              >
                <span className="font-semibold">{item.name}</span>
                <span className="text-[14px] text-soft">{inHouse.has(item.key) ? "in the house" : item.kind}</span>
              </button>
            </li>
          ))}
          {found.length === 0 && materials.data ? (
            <li className="p-2 text-soft">Nothing is called that. Try a shorter part of its name.</li>
          ) : null}
        </ul>
      </Sheet>
    </>
  );
}
