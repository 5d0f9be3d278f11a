import type { Schemas } from "../../../api/client";
import { moduleRuns } from "./moduleRuns";

/** How a taster comes in: the link as a code to scan, and eight letters to type. */
export function Invitation({ panel }: { panel: Schemas["PanelOut"] }) {
  const size = panel.qr.length;
  const quiet = 3;
  return (
    <section className="tray grid justify-items-center gap-3 p-4 md:p-5" aria-label="Take a seat">
      <svg
        viewBox={`${-quiet} ${-quiet} ${size + 2 * quiet} ${size + 2 * quiet}`}
        className="w-full max-w-72 rounded-xl bg-[#ffffff]"
        role="img"
        aria-label="Code that leads to a seat"
      >
        <path d={moduleRuns(panel.qr)} fill="#13223A" shapeRendering="crispEdges" />
      </svg>
      <p className="text-soft">or type at this house's address, under Taste</p>
      <p className="figures text-[38px] font-bold">{panel.letters}</p>
      <a
        href={panel.link}
        target="_blank"
        rel="noreferrer"
        className="inline-flex min-h-11 items-center break-all text-center text-[15px] underline"
      >
        Open a seat on this device
      </a>
    </section>
  );
}
