import type { ReactNode } from "react";
import type { Schemas } from "../../../api/client";
import { Notice } from "../../../parts/Notice";
import { figure, GAP } from "../../../parts/numbers";
import { Pour } from "../../../river/Pour";

/** What runs off peel in sugar, how much of the sugar dissolves, and when; `children` is what may be taught of it. */
export function RunsOff({ made, children }: { made: Schemas["OilSugarOut"]; children: ReactNode }) {
  const rows = [
    ["sugar to weigh", made.sugar_g, null],
    ["drawn out of the peel", made.drawn_g.value, made.drawn_g],
    ["of the sugar dissolved", made.dissolved_g, null],
    ["sugar still dry", made.dry_g, null],
  ] as const;
  return (
    <>
      <div className="tray p-4">
        <p className="text-soft">Pours off</p>
        <p className="font-head text-[52px] leading-none font-extrabold">
          <span className="worked">{figure(made.pours_g.value, 0)}</span>
          <span className="ml-1 text-[20px] font-normal text-soft">
            g, {figure(made.pours_g.low, 0)} to {figure(made.pours_g.high, 0)}
          </span>
        </p>
        <table className="mt-3 w-full max-w-xl text-[16px]">
          <tbody>
            {rows.map(([name, value, range]) => (
              <tr key={name} className="border-t border-line">
                <th scope="row" className="py-1.5 text-left font-normal">
                  {name}
                </th>
                <td className="figures text-right font-bold">{figure(value)}</td>
                <td className="pl-1 text-[14px] text-soft">g{range ? `, ${figure(range.low)} to ${figure(range.high)}` : ""}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="mt-3 max-w-xl">
          <Pour
            parts={[
              { name: "drawn", amount: made.drawn_g.value, unit: "g", kind: "water" },
              { name: "sugar in it", amount: made.dissolved_g, unit: "g", kind: "sugar" },
              { name: "dry sugar", amount: made.dry_g, unit: "g", kind: "rest" },
            ]}
          />
        </div>
        <p className="mt-3">
          Nearly all of it has run after {figure(made.hours_to_most, 0)}
          {GAP}h at this warmth. About {figure(made.oil_mg.value, 0)}
          {GAP}mg of oil with it.{" "}
          {made.jars
            ? `By ${made.jars} ${made.jars === 1 ? "jar" : "jars"} of this house.`
            : "House experience until this house's own peel has taught it."}
        </p>
        {children}
      </div>
      {made.remarks.map((text) => (
        <Notice key={text} severity="note">
          {text}
        </Notice>
      ))}
    </>
  );
}
