import type { Schemas } from "../../../api/client";

/** The figures of a verdict, each with how it was worked out and its source. */
export function Figures({ verdict }: { verdict: Schemas["PanelVerdict"] }) {
  if (!verdict.figures.length) return null;
  return (
    <details className="tray px-4 py-2 md:px-5">
      <summary className="min-h-11 cursor-pointer font-head text-[20px] leading-11 font-bold">How it was worked out</summary>
      <dl className="mt-2 grid gap-3">
        {verdict.figures.map((item) => (
          <div key={item.name} className="border-t border-line pt-2">
            <dt className="flex flex-wrap items-baseline justify-between gap-x-4">
              <span>{item.name}</span>
              <b className="figures worked">{item.value}</b>
            </dt>
            <dd className="text-[15px] text-soft">
              {item.formula}
              <span className="block">{item.source}</span>
            </dd>
          </div>
        ))}
      </dl>
    </details>
  );
}
