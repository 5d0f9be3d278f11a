import { memo } from "react";
import type { Schemas } from "../../../api/client";
import { FOREVER_DAYS } from "../../../api/rules";
import { Notice, type Severity } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import { listed } from "../../../parts/say";

/** Why it keeps as long as it does, what is in it that somebody may not eat, and what to look out for. */
export const KeepingAndCautions = memo(function KeepingAndCautions({ final }: { final: Schemas["FinalResult"] }) {
  const { safety, quality, reason } = final.keeping;
  const other = [safety, quality].find((item) => item && !reason.includes(item.words));
  return (
    <section className="tray grid gap-2 p-4 text-[15px]" aria-label="Keeping and cautions">
      <h2 className="text-[20px]">Keeping and cautions</h2>
      <p>{final.keeping.reason}</p>
      {(final.keeping.not_shown ?? []).map((words) => (
        <p key={words} className="text-[14px]">
          <b>Not shown yet:</b> {words}
        </p>
      ))}
      {other ? (
        <p className="text-[14px] text-soft">
          {other === quality ? "Quality" : "Safety"} would allow {other.days} {other.days === 1 ? "day" : "days"}: {other.words}.
        </p>
      ) : null}
      <details className="text-[14px]">
        <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Every reason, with its source</summary>
        <ul className="grid gap-1">
          {(final.keeping.reasons ?? []).map((item) => (
            <li key={item.kind + item.words}>
              <b>{item.days >= FOREVER_DAYS ? "no limit" : `${item.days} days`}</b> {item.words}{" "}
              <span className="text-soft">({item.source})</span>
            </li>
          ))}
        </ul>
      </details>
      {(final.restricted ?? []).map((item) => (
        <Notice key={item.name} severity={item.severity as Severity}>
          {item.told} {item.words}
          {(item.at_most ?? []).map((most) => (
            <span key={most.material} className="block">
              At most {figure(most.most_g, most.most_g < 1 ? 3 : undefined)}
              {GAP}g of {most.name.toLowerCase()}, and it holds {figure(most.now_g, most.now_g < 1 ? 3 : undefined)}
              {GAP}g.
            </span>
          ))}{" "}
          <span className="text-soft">({item.source})</span>
        </Notice>
      ))}
      <p>
        <b>Allergens:</b> {final.allergens_words}
      </p>
      {final.cautions.map((caution) => (
        <p key={caution}>
          <b>Caution:</b> {caution}
        </p>
      ))}
      <p className="text-[14px] text-soft">
        {final.free_from.length ? `Made without ${listed(final.free_from)}, by what goes in. ` : ""}Follow your local food code; ask your
        authority.
      </p>
      {final.unpriced.length ? <p className="text-[14px] text-soft">Without a price: {final.unpriced.join(", ").toLowerCase()}.</p> : null}
    </section>
  );
});
