import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask } from "../../../api/queries";

/** What may be said to a guest: of this spec through all that goes into it, and where to look for the drinks that it goes into. */
export function AllergensAnswer({ spec }: { spec: string }) {
  const { data } = useQuery(ask.allergens(spec));
  if (!data) return null;
  return (
    <div className="mt-1 text-[15px]">
      <p>{data.words}</p>
      {data.drinks.length ? (
        <p className="mt-1">
          It goes into{" "}
          {data.drinks.map((drink, n) => (
            <span key={drink.id}>
              {n ? ", " : ""}
              <Link to={`/specs/${drink.id}/card`} className="inline-flex min-h-11 items-center font-semibold text-rim underline">
                {drink.name}
              </Link>
            </span>
          ))}
          .
        </p>
      ) : null}
    </div>
  );
}
