import type { Schemas } from "../../../api/client";
import { FIGURES, type FigureKey } from "../../../api/figures";
import { Figure } from "../../../parts/Figure";
import { figure, GAP } from "../../../parts/numbers";
import { BANDS, bandWord } from "../../../parts/say";

/** What a material reads that is described so, as it is typed: for a look at the refractometer. */
export function ReadsSo({ view }: { view: Schemas["MaterialOut"] | undefined }) {
  if (!view) return null;
  const shown = Object.entries(view.figures).filter(([name]) => name in FIGURES) as [FigureKey, Schemas["Range"]][];
  const shares = BANDS.map((band) => ({ band, share: figure((view.bands[band] ?? 0) * 100, 1) }))
    .filter(({ share }) => Number(share))
    .map(({ band, share }) => `${bandWord(band)} ${share}${GAP}%`);
  return (
    <section className="rounded-xl bg-quiet p-4" aria-label="It reads so">
      <p className="text-[14px] text-soft">
        So it reads, at 20 °C. {shown.length ? "Hold it against the instrument." : "It is no liquid, so no instrument reads it."}
      </p>
      <dl className="my-1 flex flex-wrap gap-x-6 gap-y-1">
        {shown.map(([name, range]) => (
          <div key={name}>
            <dt className="text-[14px] text-soft">{FIGURES[name].short}</dt>
            <dd>
              <Figure name={name} data={range} />
            </dd>
          </div>
        ))}
      </dl>
      <p className="text-[14px]">By weight: {shares.join(" · ")}</p>
    </section>
  );
}
