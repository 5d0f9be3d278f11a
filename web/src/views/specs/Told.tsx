import type { Schemas } from "../../api/client";

const NAMES: Readonly<Record<string, string>> = { yield: "yield", keeps: "keeps", serve: "use", strength: "strength" };

/** What the text that a spec was read from claims, beside what the spec comes to; each gap with its likeliest cause. */
export function Told({ claims }: { claims: readonly Schemas["ToldClaim"][] }) {
  if (claims.length === 0) return null;
  return (
    <section className="tray p-4" aria-label="Told and worked out">
      <h2 className="mb-2 text-[20px]">Told and worked out</h2>
      <ul className="grid gap-3">
        {claims.map((claim) => (
          <li key={claim.told} className="text-[15px]">
            <p className="text-[14px] text-soft">{NAMES[claim.kind] ?? claim.kind}</p>
            <p>
              told: <q>{claim.told}</q>
            </p>
            {claim.worked_out ? (
              <p className={claim.agrees === false ? "font-bold text-warn" : ""}>
                worked out: {claim.worked_out}
                {claim.agrees === false ? ", not the same" : ""}
              </p>
            ) : null}
            {claim.cause ? <p className="text-[14px] text-soft">{claim.cause}</p> : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
