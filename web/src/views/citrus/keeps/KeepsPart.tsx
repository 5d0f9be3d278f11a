import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { NotFetched, Shape } from "../../../parts/Notice";
import { span } from "../../../parts/say";

const HOUR_MS = 3_600_000;
const MOST_H = 4320;
/** Hours to days to months on one strip. */
const along = (hours: number) => `${(100 * Math.log10(1 + hours)) / Math.log10(1 + MOST_H)}%`;
const said = (hours: number) => (hours < 48 ? span(hours * HOUR_MS) : `${Math.round(hours / 24)} days`);

/** How long a juice keeps in each form: how good it stays, told apart from how long it is safe. */
export function KeepsPart() {
  const found = useQuery(ask.citrusKeeps());
  if (found.isPending) return <Shape rows={5} />;
  return (
    <section className="tray p-4" aria-label="How long it keeps">
      <NotFetched questions={[found]} />
      <p className="mb-3 text-soft">
        The bar is how long it stays at its best, hours to months; the red mark on it is the safety rule, which stands whatever the taste.
        House experience, not a standard: follow your local food code.
      </p>
      <ul className="grid gap-5">
        {found.data?.map((item) => (
          <li key={item.form} className="grid gap-1 md:grid-cols-[230px_1fr] md:gap-4">
            <div>
              <h2 className="text-[18px]">{item.form.charAt(0).toUpperCase() + item.form.slice(1)}</h2>
              <p className="text-[14px] text-soft">{item.how}</p>
            </div>
            <div>
              <svg viewBox="0 0 100 10" preserveAspectRatio="none" className="h-5 w-full" aria-hidden="true">
                <rect x="0" y="0" width="100" height="10" fill="var(--quiet)" stroke="var(--line)" vectorEffect="non-scaling-stroke" />
                <rect x="0" y="0" height="10" width={along(item.quality_h.high)} fill="var(--acid)" opacity="0.35" />
                <rect x="0" y="0" height="10" width={along(item.quality_h.value)} fill="var(--acid)" />
                {item.safe_days === null ? null : <rect x={along(item.safe_days * 24)} y="0" height="10" width="0.7" fill="var(--warn)" />}
              </svg>
              <p className="mt-1">
                <b>At its best {said(item.quality_h.value)}</b>
                <span className="text-soft">
                  {" "}
                  ({said(item.quality_h.low)} to {said(item.quality_h.high)}): {item.words}
                </span>
              </p>
              <p className="text-[15px]">
                <b className={item.safe_days === null ? "" : "text-warn"}>
                  Safe {item.safe_days === null ? "while frozen" : `${item.safe_days} days`}
                </b>
                <span className="text-soft">: {item.why_safe}</span>
              </p>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
