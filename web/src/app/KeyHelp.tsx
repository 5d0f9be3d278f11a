import { presentKeys } from "../parts/keys";
import { Sheet } from "../parts/Sheet";

const WORDS: Record<string, string> = { " ": "space", ArrowUp: "↑", ArrowDown: "↓" };

/** The keys of the present place. */
export function KeyHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  if (open) document.dispatchEvent(new Event("ulsek:list-keys"));
  return (
    <Sheet open={open} onClose={onClose} title="Keys" about="They rest while you type.">
      <dl className="grid grid-cols-[auto_1fr] items-center gap-x-4 gap-y-2">
        {open
          ? presentKeys().map((action) => (
              <div key={action.key + action.says} className="contents">
                <dt>
                  <kbd className="figures rounded-md border border-line px-2 py-0.5">{WORDS[action.key] ?? action.key}</kbd>
                </dt>
                <dd>{action.says}</dd>
              </div>
            ))
          : null}
      </dl>
    </Sheet>
  );
}
