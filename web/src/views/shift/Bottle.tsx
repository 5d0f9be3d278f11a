import { BANDS, type Band } from "../../parts/say";

/** A bottle filled as far as it still is, in the colour of what it mostly carries besides water. */
export function Bottle({ full, bands }: { full: number; bands: Readonly<Record<Band, number>> | undefined }) {
  const level = Math.min(1, Math.max(0, full));
  const carries = bands
    ? BANDS.filter((band) => band !== "water").reduce<Band>((best, band) => (bands[band] > bands[best] ? band : best), "sugar")
    : "solids";
  const height = 25 * level;
  return (
    <svg viewBox="0 0 20 40" className="h-10 w-5" aria-hidden="true">
      <rect x="3" y={36 - height} width="14" height={height} data-band={carries} />
      <path d="M7 2h6v6q4 1 4 5v20q0 4 -4 4H7q-4 0 -4 -4V13q0 -4 4 -5z" fill="none" stroke="var(--rim)" strokeWidth="2" />
    </svg>
  );
}
