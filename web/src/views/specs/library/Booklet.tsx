import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../../api/queries";
import { Choice } from "../../../parts/Choice";
import { LANGUAGES } from "../../../parts/languages";
import { Sheet } from "../../../parts/Sheet";
import { useSession } from "../../../session/session";

const SOME = 40;

/** Cards of the week's specs as one PDF. */
export function Booklet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const specs = useQuery({ ...ask.specs({ state: "published" }), enabled: open });
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const session = useSession();
  const [language, setLanguage] = useState(session.language);
  const items = specs.data ?? [];
  const toggle = (id: string) => setChosen((now) => (now.includes(id) ? now.filter((item) => item !== id) : [...now, id].slice(-SOME)));
  const address = `/api/booklet.pdf?language=${language}&specs=${chosen.join(",")}`;
  return (
    <Sheet
      open={open}
      onClose={onClose}
      wide
      title="A booklet for the week"
      about="One card a page, the newest version of each. None chosen: all of them."
    >
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <Choice label="Language of the cards" value={language} options={LANGUAGES} onChange={setLanguage} />
        <a
          href={address}
          target="_blank"
          rel="noreferrer"
          className="inline-flex min-h-11 items-center rounded-full border border-rim bg-rim px-4 text-[15px] font-bold text-on-rim"
        >
          {chosen.length ? `Open ${chosen.length} cards as PDF` : "Open all as PDF"}
        </a>
      </div>
      <ul className="grid gap-x-4 sm:grid-cols-2">
        {items.map((item) => (
          <li key={item.id}>
            <label className="flex min-h-11 items-center gap-3 rounded-lg px-2 hover:bg-pick">
              <input type="checkbox" className="size-5 accent-rim" checked={chosen.includes(item.id)} onChange={() => toggle(item.id)} />
              {item.name}
            </label>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
