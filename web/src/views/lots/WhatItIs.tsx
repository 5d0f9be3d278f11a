import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { Figure } from "../../parts/Figure";
import { figure, GAP } from "../../parts/numbers";
import { clock, day } from "../../parts/say";

/** How much of a lot is left, what is in it, who made it and where it stands. */
export function WhatItIs({ lot, zone }: { lot: Schemas["LotOut"]; zone: string }) {
  return (
    <section className="tray mb-3.5 grid gap-4 p-5 sm:grid-cols-2" aria-label="What it is">
      <dl className="grid gap-2.5">
        <div>
          <dt className="text-[14px] text-soft">left</dt>
          <dd className="font-head text-[25px] font-bold">
            {figure(lot.left, 0)}
            <span className="ml-1.5 text-[14px] font-normal text-soft">
              of {figure(lot.amount, 0)}
              {GAP}
              {lot.unit}
            </span>
          </dd>
        </div>
        {lot.final ? (
          <>
            <div>
              <dt className="text-[14px] text-soft">solids</dt>
              <dd>
                <Figure name="brix" data={lot.final.brix} size="big" />
              </dd>
            </div>
            <div>
              <dt className="text-[14px] text-soft">acid, as citric</dt>
              <dd>
                <Figure name="acid_g_100ml" data={lot.final.acid_g_100ml} size="big" />
              </dd>
            </div>
          </>
        ) : null}
      </dl>
      <dl className="grid content-start gap-2.5">
        <div>
          <dt className="text-[14px] text-soft">made</dt>
          <dd>
            {day(lot.made_at, zone)} {clock(lot.made_at, zone)} by {lot.made_by}
          </dd>
        </div>
        <div>
          <dt className="text-[14px] text-soft">stands</dt>
          <dd>
            {lot.place || "nowhere noted"}, {lot.keep_c}
            {GAP}°C or colder
            {lot.too_warm ? <b className="block text-warn">{lot.too_warm}</b> : null}
          </dd>
        </div>
        <div>
          <dt className="text-[14px] text-soft">from</dt>
          <dd>
            {lot.run ? (
              <Link to={`/make/${lot.run}`} className="inline-flex min-h-11 items-center font-semibold text-rim underline">
                batch {lot.run_code}
              </Link>
            ) : (
              "before it was written down: labelled afterwards"
            )}
          </dd>
        </div>
      </dl>
    </section>
  );
}
