import { useQuery } from "@tanstack/react-query";
import { client, type SpecFile, unwrap } from "../../../api/client";
import { NotFetched, Shape } from "../../../parts/Notice";
import { Sheet } from "../../../parts/Sheet";
import { fromHereOr } from "../../../sync/core";

export interface WorkingAsked {
  step: string;
  name: string;
}

/** How a number came about: the formula in words, the numbers put in, the source, and where its doubt comes from. */
export function WorkingSheet({ asked, body, onClose }: { asked: WorkingAsked | null; body: SpecFile; onClose: () => void }) {
  const working = useQuery({
    queryKey: ["working", asked, body],
    enabled: asked !== null,
    gcTime: 0,
    queryFn: () => {
      const { step, name } = asked ?? { step: "", name: "" };
      const site = () => unwrap(client.POST("/api/working", { body: { spec: body as unknown as Record<string, unknown>, step, name } }));
      return fromHereOr(site, "working", body, step, name);
    },
  });
  const sheet = working.data;
  return (
    <Sheet open={asked !== null} onClose={onClose} title={sheet?.name ?? "Working"} {...(sheet ? { about: sheet.value } : {})}>
      <NotFetched questions={[working]} />
      {working.isLoading ? <Shape rows={3} /> : null}
      {sheet ? (
        <div className="grid gap-4">
          {sheet.spread ? <p className="figures">{sheet.spread} (5 to 95 %)</p> : null}
          <p>
            <span className="block text-[14px] text-soft">How</span>
            {sheet.formula}
          </p>
          {sheet.inputs.length ? (
            <table className="w-full">
              <caption className="text-left text-[14px] text-soft">With</caption>
              <tbody>
                {sheet.inputs.map((input) => (
                  <tr key={input.name} className="border-b border-line">
                    <th scope="row" className="py-1 text-left font-normal">
                      {input.name}
                    </th>
                    <td className="figures py-1 text-right font-bold">{input.value}</td>
                    <td className="w-16 py-1 pl-2 text-[14px] text-soft">{input.unit}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          ) : null}
          {sheet.doubt ? <p>{sheet.doubt}</p> : null}
          <p className="text-[14px] text-soft">Source: {sheet.source}</p>
        </div>
      ) : null}
    </Sheet>
  );
}
