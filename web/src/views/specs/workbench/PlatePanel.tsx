import { useMutation, useQuery } from "@tanstack/react-query";
import { memo, type RefObject, useDeferredValue, useState } from "react";
import { client, type Schemas, type SpecFile, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { figure, GAP, withoutUnit, withUnit } from "../../../parts/numbers";
import type { PlateSpot } from "../../../plate/layout";
import { Plate } from "../../../plate/Plate";
import { fromHereOr } from "../../../sync/core";

export interface PlatePanelProps {
  body: SpecFile;
  final: Schemas["FinalResult"];
  pins: readonly Schemas["Pin"][];
  mayEdit: boolean;
  flagRef: RefObject<SVGGElement | null>;
  onTake: (body: SpecFile) => void;
}

const half = (data: Schemas["Range"]) => (data.high - data.low) / 2;

/** Where it tastes, and what brings it to the flag; each addition is taken or left on its own. */
export const PlatePanel = memo(function PlatePanel({ body, final, pins, mayEdit, flagRef, onTake }: PlatePanelProps) {
  const [flag, setFlag] = useState<PlateSpot | null>(null);
  const asked = useDeferredValue(flag);
  const spec = body as unknown as Record<string, unknown>;
  const way = useQuery({
    queryKey: ["solve", asked, body],
    enabled: asked !== null,
    retry: false,
    gcTime: 0,
    placeholderData: (before) => before,
    queryFn: () => {
      const { sugar, acid } = asked ?? { sugar: 0, acid: 0 };
      const site = () => unwrap(client.POST("/api/solve", { body: { spec, sugar_g_100ml: sugar, acid_g_100ml: acid } }));
      return fromHereOr(site, "flag", body, sugar, acid);
    },
  });
  const take = useMutation({
    mutationFn: ({ material, mass_g }: Schemas["Addition"]) =>
      fromHereOr(() => unwrap(client.POST("/api/take", { body: { spec, material, mass_g } })), "take", body, material, mass_g),
    onSuccess: (taken) => onTake(taken.spec),
  });
  const spot = {
    sugar: final.sugar_g_100ml.value,
    acid: final.acid_g_100ml.value,
    sugarHalf: half(final.sugar_g_100ml),
    acidHalf: half(final.acid_g_100ml),
  };
  return (
    <section className="tray p-4" aria-label="Where it tastes">
      <div className="mb-1 flex items-baseline justify-between gap-2">
        <h2 className="text-[20px]">Where it tastes</h2>
        {flag ? (
          <Button look="quiet" onClick={() => setFlag(null)}>
            Take the flag away
          </Button>
        ) : mayEdit ? (
          <span className="text-[14px] text-soft">drag the flag</span>
        ) : null}
      </div>
      <Plate spot={spot} pins={pins} flag={flag} flagRef={flagRef} {...(mayEdit ? { onFlag: setFlag } : {})} />
      {flag && way.error ? <Trouble error={way.error} /> : null}
      {flag && way.data && !way.error ? (
        <div className="mt-1 rounded-xl bg-quiet p-3 text-[15px]" aria-live="polite">
          {way.data.additions.length === 0 ? <p>It tastes there already.</p> : null}
          <ul className="grid gap-1">
            {way.data.additions.map((item) => (
              <li key={item.material} className="flex items-center justify-between gap-3">
                <b>
                  +{GAP}
                  {figure(item.mass_g)}
                  {GAP}g {item.name.split(",")[0]?.toLowerCase()}
                </b>
                <Button onClick={() => take.mutate(item)} disabled={take.isPending} aria-label={`Take ${item.name}`}>
                  take
                </Button>
              </li>
            ))}
          </ul>
          <p className="mt-1 text-[14px] text-soft">
            {withUnit("brix", way.data.brix)} · {withoutUnit("acid_g_100ml", way.data.acid_g_100ml)} acid ·{" "}
            {figure(way.data.volume_ml / 1000, 2)}
            {GAP}L
          </p>
        </div>
      ) : null}
      <Trouble error={take.error} />
    </section>
  );
});
