import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";
import type { Schemas } from "../../../api/client";
import { FIGURES, type FigureKey } from "../../../api/figures";
import { ask } from "../../../api/queries";
import { PageNotFetched, Shape } from "../../../parts/Notice";
import { withoutUnit } from "../../../parts/numbers";
import { Plate } from "../../../plate/Plate";
import { River } from "../../../river/River";
import { TastedAs } from "../../taste/common/TastedAs";
import { flowing } from "../flowing";
import { SpecParts } from "../SpecParts";

const ROW = 62;
const EACH = 36;
type Side = Schemas["SideOut"];
const half = (data: Schemas["Range"]) => (data.high - data.low) / 2;

/** Two versions side by side: what changed and what it did, steps matched, river beside river, both spots on one plate. */
export function CompareView() {
  const { spec = "" } = useParams();
  const [search] = useSearchParams();
  const other = search.get("with") ?? spec;
  const sides = {
    left: spec,
    left_version: search.get("left") ?? "draft",
    right: other,
    right_version: search.get("right") ?? "draft",
  };
  const found = useQuery(ask.compare(sides));
  const ofLeft = useQuery(ask.panelsOfSpec(sides.left));
  const ofRight = useQuery(ask.panelsOfSpec(sides.right));
  // Panels that had both in their glasses.
  const holds = (panel: Schemas["PanelRow"], version: string) => panel.versions.includes(Number(version));
  const both = ofLeft.data?.items.filter(
    (panel) =>
      holds(panel, sides.left_version) && ofRight.data?.items.some((row) => row.id === panel.id && holds(row, sides.right_version)),
  );
  if (found.isPending) return <Shape rows={7} title="Compare" />;
  const data = found.data;
  if (!data) return <PageNotFetched title="Compare" question={found} />;
  const { left, right } = data;
  return (
    <main className="mx-auto max-w-[1400px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="text-[26px]">
          {left.name} <span className="text-soft">beside</span> {right.name}
        </h1>
        <SpecParts spec={spec} />
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[minmax(0,1fr)_374px]">
        <section className="tray overflow-hidden" aria-label="Steps side by side">
          <ol>
            {data.rows.map((row) => (
              <li
                key={`${row.left}-${row.right}`}
                className={`grid gap-x-4 border-b border-line px-4 py-2.5 md:grid-cols-2 ${row.same ? "text-soft" : "bg-pick"}`}
              >
                <CompareStep words={row.left_words} amounts={row.amounts.map((item) => [item.name, item.left, item.left !== item.right])} />
                <CompareStep
                  words={row.right_words}
                  amounts={row.amounts.map((item) => [item.name, item.right, item.left !== item.right])}
                />
              </li>
            ))}
          </ol>
          <div className="hidden grid-cols-2 gap-4 p-4 md:grid">
            <SmallRiver side={left} />
            <SmallRiver side={right} />
          </div>
        </section>
        <div className="grid content-start gap-4">
          {both?.length ? (
            <section className="tray p-4" aria-label="Tasted side by side">
              {both.map((panel) => (
                <TastedAs key={panel.id} panel={panel} />
              ))}
            </section>
          ) : null}
          <section className="tray p-4" aria-label="What it did">
            <h2 className="mb-1 text-[20px]">What it did</h2>
            {data.did.length ? (
              <ul className="grid gap-1 text-[17px] font-semibold">
                {data.did.map((text) => (
                  <li key={text}>{text}</li>
                ))}
              </ul>
            ) : (
              <p>Nothing that anybody could read or taste.</p>
            )}
            <h3 className="mt-3 text-[16px] text-soft">because</h3>
            <ul className="text-[15px]">
              {data.changed.map((text) => (
                <li key={text}>{text}</li>
              ))}
              {data.changed.length === 0 ? <li>No step or amount differs.</li> : null}
            </ul>
          </section>
          {left.result.final && right.result.final ? (
            <section className="tray p-4" aria-label="Both on one plate">
              <h2 className="mb-1 text-[20px]">On one plate</h2>
              <Plate
                spot={{
                  sugar: right.result.final.sugar_g_100ml.value,
                  acid: right.result.final.acid_g_100ml.value,
                  sugarHalf: half(right.result.final.sugar_g_100ml),
                  acidHalf: half(right.result.final.acid_g_100ml),
                }}
                pins={[{ name: left.name, sugar: left.result.final.sugar_g_100ml.value, acid: left.result.final.acid_g_100ml.value }]}
                flag={null}
              />
              <p className="text-[14px] text-soft">
                The full spot is {right.name}; the ring is {left.name}.
              </p>
            </section>
          ) : null}
          <section className="tray p-4" aria-label="Figures">
            <table className="w-full">
              <caption className="sr-only">Figures of both sides</caption>
              <thead>
                <tr className="text-right text-[14px] text-soft">
                  <th scope="col" className="text-left font-normal">
                    reads
                  </th>
                  <th scope="col" className="font-normal">
                    left
                  </th>
                  <th scope="col" className="font-normal">
                    right
                  </th>
                  <th scope="col" className="sr-only">
                    unit
                  </th>
                </tr>
              </thead>
              <tbody>
                {data.figures.map((item) => {
                  const { short, unit } = FIGURES[item.name as FigureKey];
                  const shown = (value: number | null | undefined) => (value == null ? "–" : withoutUnit(item.name as FigureKey, value));
                  return (
                    <tr key={item.name} className="border-t border-line">
                      <th scope="row" className="py-1 text-left font-normal">
                        {short}
                      </th>
                      <td className="figures py-1 text-right">{shown(item.left)}</td>
                      <td className="figures py-1 text-right font-bold">{shown(item.right)}</td>
                      <td className="w-20 py-1 pl-2 text-[14px] text-soft">{unit}</td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </section>
          <Link to={`/specs/${spec}/versions`} className="min-h-11 font-semibold text-rim hover:underline">
            All versions
          </Link>
        </div>
      </div>
    </main>
  );
}

function CompareStep({ words, amounts }: { words: string; amounts: readonly (readonly [string, string, boolean])[] }) {
  if (!words) return <p className="text-[15px] text-soft">not on this side</p>;
  return (
    <div>
      <p className="text-[16px] font-bold">{words}</p>
      {amounts.map(([name, text, changed]) =>
        text ? (
          <p key={name} className={`text-[15px] ${changed ? "font-semibold text-ink" : ""}`}>
            {name} {text}
          </p>
        ) : null,
      )}
    </div>
  );
}

function SmallRiver({ side }: { side: Side }) {
  const vessels = (side.body.vessels ?? []) as { id: string; name?: string }[];
  const steps = side.result.steps.map((step) => flowing(step, vessels));
  const heights = steps.map((step) => ROW + EACH * Math.max(0, step.added.length - 1));
  const rows = heights.map((height, i) => ({ top: heights.slice(0, i).reduce((all, one) => all + one, 0), height }));
  const names = Object.fromEntries(
    side.result.steps.flatMap((step) =>
      step.added.map((added) => [added.line, side.result.words.names[added.material]?.split(",")[0] ?? ""]),
    ),
  );
  return (
    <figure>
      <figcaption className="mb-1 text-[15px] font-semibold">{side.name}</figcaption>
      <div className="relative" style={{ height: heights.reduce((all, one) => all + one, 0) }}>
        <River steps={steps} rows={rows} names={names} title={`River of ${side.name}`} />
      </div>
    </figure>
  );
}
