import type { UseQueryResult } from "@tanstack/react-query";
import type { Schemas } from "../../../api/client";
import { Problem } from "../../../api/client";
import { figure } from "../../../parts/numbers";

interface CanShowProps {
  asked: UseQueryResult<Schemas["BeforehandOut"]>;
  doses: Schemas["SampleDose"][] | null;
}

/** What this panel can show, said before anybody drinks. */
export function CanShow({ asked, doses }: CanShowProps) {
  const { data, error } = asked;
  const [first, ...rest] = data?.sentences ?? [];
  return (
    <section className="tray grid gap-2.5 p-4 md:p-5" aria-label="What this panel can show" aria-live="polite">
      <h2 className="text-[20px]">What this panel can show</h2>
      {error instanceof Problem ? (
        <p className="font-semibold text-warn">{error.detail}</p>
      ) : data ? (
        <>
          <p className={`text-[18px] font-bold ${data.reaches_line ? "" : "text-warn"}`}>{first}</p>
          {rest.map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
          <p className="border-t border-line pt-2.5 text-soft">{data.poured}</p>
          {doses ? (
            <ul className="grid gap-1.5">
              {doses.map((dose) => (
                <li key={dose.name}>
                  <b className="figures">{figure(dose.ml, 1)} mL</b> {dose.name}
                  {dose.differs.length ? (
                    <span className="block text-[15px] text-soft">all the same: {dose.differs.join(", ")}</span>
                  ) : null}
                </li>
              ))}
            </ul>
          ) : null}
        </>
      ) : (
        <div className="h-24 rounded-lg bg-quiet" role="status" aria-label="Working it out" />
      )}
    </section>
  );
}
