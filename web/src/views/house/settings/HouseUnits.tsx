import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { CUPS } from "../../../api/rules";
import { Choice } from "../../../parts/Choice";
import { LANGUAGES } from "../../../parts/languages";
import { Trouble } from "../../../parts/Notice";
import { useSession } from "../../../session/session";

const BESIDE = [
  { value: "nothing", label: "weights alone" },
  { value: "volume", label: "millilitres beside" },
  { value: "cups", label: "cups beside" },
] as const;

/** How the house likes its units: weight always, and what stands beside it. */
export function HouseUnits() {
  const session = useSession();
  const queries = useQueryClient();
  const set = useMutation({
    mutationFn: (body: { beside: string; locale: string; language: string }) => unwrap(client.PUT("/api/house/units", { body })),
    onSuccess: (next) => queries.setQueryData(ask.session().queryKey, next),
  });
  const { beside, locale, language } = session;
  return (
    <section className="tray p-5" aria-label="Units of the house">
      <h2 className="text-[20px]">Units</h2>
      <p className="mb-3 text-soft">
        Every amount is a weight. Beside it, on cards and at the workbench, may stand what it measures. The cup is what a recipe's “cup”
        holds. Cards and booklets begin in the language of the house; whoever reads one may choose another.
      </p>
      <div className="flex flex-wrap gap-2">
        <Choice
          label="What stands beside weights"
          value={beside as (typeof BESIDE)[number]["value"]}
          options={BESIDE}
          onChange={(next) => set.mutate({ beside: next, locale, language })}
        />
        <Choice
          label="Size of the cup"
          value={locale as (typeof CUPS)[number]["value"]}
          options={CUPS}
          onChange={(next) => set.mutate({ beside, locale: next, language })}
        />
        <Choice
          label="Language of the cards"
          value={language}
          options={LANGUAGES.map(({ value, label }) => ({ value, label: `cards ${label}` }))}
          onChange={(next) => set.mutate({ beside, locale, language: next })}
        />
      </div>
      <Trouble error={set.error} />
    </section>
  );
}
