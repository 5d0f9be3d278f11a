import { Link } from "react-router";
import { FromTable } from "./FromTable";
import { UsualShelf } from "./UsualShelf";

/** What a house has already, taken in by the dozen: a table as a supplier or a till writes it, or the usual shelf ticked off. */
export function ManyView() {
  return (
    <main className="mx-auto max-w-[1100px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-[32px]">Start with what you have</h1>
        <Link to="/stores" className="inline-flex min-h-11 items-center font-semibold text-rim underline">
          Back to Stores
        </Link>
      </div>
      <div className="grid gap-4">
        <FromTable />
        <UsualShelf />
      </div>
    </main>
  );
}
