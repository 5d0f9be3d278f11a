import { figure } from "../../../parts/numbers";
import { BANDS, type Band, bandWord } from "../../../parts/say";

/** What is in it, as a small bar of the material colours; said in words too. */
export function Makeup({ bands, name }: { bands: Readonly<Record<string, number>>; name: string }) {
  const share = (band: Band) => bands[band] ?? 0;
  const shown = BANDS.filter((band) => share(band) > 0.0005);
  let x = 0;
  const said = shown.map((band) => `${bandWord(band)} ${figure(share(band) * 100, 1)} %`).join(", ");
  return (
    <svg viewBox="0 0 84 22" className="h-[22px] w-[84px]" role="img" aria-label={`${name}: ${said}`}>
      <title>{said}</title>
      {shown.map((band) => {
        const width = Math.max(2, share(band) * 84);
        const start = x;
        x += width;
        return <rect key={band} x={start} y="1" width={width} height="20" data-band={band} stroke="var(--outline)" strokeWidth="0.75" />;
      })}
      <rect x="0.5" y="1" width="83" height="20" rx="5" fill="none" stroke="var(--rim)" />
    </svg>
  );
}
