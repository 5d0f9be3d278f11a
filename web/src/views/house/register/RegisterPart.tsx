import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask } from "../../../api/queries";
import { NotFetched, Shape } from "../../../parts/Notice";
import { Entries } from "./Entries";

/** What the house weighs, measures and cooks with, where things stand and who delivers: each kind with what it changes. */
export function RegisterPart() {
  const kinds = useQuery(ask.registerKinds());
  const register = useQuery(ask.register());
  if (kinds.isPending || register.isPending) return <Shape rows={8} />;
  if (!kinds.data || !register.data) return <NotFetched questions={[kinds, register]} />;
  return (
    <>
      <p className="text-soft">All of it may stay empty: Ulsek then takes what most bars have.</p>
      <p className="mb-3 flex flex-wrap gap-x-6">
        <Link to="/make/containers" className="inline-flex min-h-11 items-center font-semibold text-rim underline">
          Containers, weighed empty
        </Link>
        <Link to="/make/instruments" className="inline-flex min-h-11 items-center font-semibold text-rim underline">
          Instruments that are connected
        </Link>
      </p>
      <div className="gap-4 lg:columns-2">
        {kinds.data.map((kind) => (
          <Entries key={kind.key} kind={kind} entries={register.data.filter((entry) => entry.kind === kind.key)} />
        ))}
      </div>
    </>
  );
}
