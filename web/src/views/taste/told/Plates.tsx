import type { Schemas } from "../../../api/client";
import { figure } from "../../../parts/numbers";
import { SpotsPlate } from "../../../plate/SpotsPlate";

interface PlatesProps {
  panel: Schemas["PanelOut"];
  results: Schemas["PanelResults"];
}

/** The samples on the plate, each with its score: what differs is seen at once. */
export function Plates({ panel, results }: PlatesProps) {
  const figures = new Map(results.standings.map((row) => [row.sample, row.figure]));
  const spots = panel.samples.flatMap(({ short: name, sugar_g_100ml: sugar, acid_g_100ml: acid }, n) => {
    if (sugar === null || acid === null) return [];
    const found = figures.get(n);
    return [{ name, sugar, acid, label: found ? figure(found.value, 1) : name, isFirst: results.standings[0]?.sample === n }];
  });
  if (!spots.length) return null;
  const unknown = panel.samples.length - spots.length;
  return (
    <section className="tray p-4 md:p-5" aria-label="Where they stand">
      <h2 className="mb-1 text-[20px]">Where they stand</h2>
      {/* The first has its label whatever stands close to it. */}
      <SpotsPlate
        spots={[...spots].sort((one, other) => Number(other.isFirst) - Number(one.isFirst))}
        flag={results.next}
        liked={results.liked}
      />
      {unknown ? (
        <p className="text-[15px] text-soft">{unknown === 1 ? "One is" : `${unknown} are`} not here: nobody has read sugar and acid.</p>
      ) : null}
    </section>
  );
}
