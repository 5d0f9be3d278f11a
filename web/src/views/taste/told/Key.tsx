import type { Schemas } from "../../../api/client";
import { tasterName } from "./tasters";

interface KeyProps {
  panel: Schemas["PanelOut"];
  results: Schemas["PanelResults"];
}

/** The key, now that anybody may see it: what stood in each glass; and tasters' own words. */
export function Key({ panel, results }: KeyProps) {
  return (
    <details className="tray px-4 py-2 md:px-5">
      <summary className="min-h-11 cursor-pointer font-head text-[20px] leading-11 font-bold">What stood in which glass</summary>
      <ul className="mt-2 grid gap-1.5 text-[15px]">
        {results.sets.map((set) => (
          <li key={`${set.seat} ${set.turn}`} className="border-t border-line pt-1.5">
            <b>{tasterName(panel, set.seat)}</b>
            {panel.rounds > 1 ? <span className="text-soft">, round {set.round}</span> : null}
            <span className="block">
              {set.codes.map((code, n) => `${code} ${panel.samples[set.samples[n] ?? 0]?.short ?? ""}`).join(" · ")}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}
