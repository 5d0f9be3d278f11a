import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask } from "../../api/queries";
import { canLead, useSession } from "../../session/session";

/** What a house that has nothing yet does first, each with whether it is done; a lead sees it until something stands on the bench or the shelf. */
export function FirstSteps() {
  const session = useSession();
  const specs = useQuery(ask.library({}));
  const stock = useQuery(ask.stockCalled(""));
  const people = useQuery({ ...ask.people(), enabled: canLead(session) });
  if (!canLead(session) || !specs.data || !stock.data) return null;
  const recipes = specs.data.items.length > 0;
  const steps = [
    { done: recipes, to: "/specs/read", what: "A recipe of yours", how: "paste one, or a dozen at once" },
    {
      done: stock.data.items.length > 0,
      to: "/stores/many",
      what: "What you have already",
      how: "tick the usual shelf, or a table of stock and prices",
    },
    { done: (people.data?.length ?? 1) > 1, to: "/house/people", what: "Whoever makes with you", how: "by a link; alone, leave it" },
    { done: Boolean(session.device), to: "/house/devices", what: "The tablet at the bench", how: "open this on it and enrol it there" },
    { done: false, to: "/make", what: "A first batch", how: recipes ? "publish the spec, then start it" : "once a recipe is in" },
  ];
  return (
    <section className="tray mb-3.5 p-4" aria-label="First steps">
      <h2 className="text-[20px]">First steps in {session.house}</h2>
      <ol className="mt-1 grid gap-x-4 md:grid-cols-2">
        {steps.map((step, n) => (
          <li key={step.to} className="border-t border-line">
            <Link to={step.to} className="-mx-2 flex min-h-14 items-center gap-3 rounded-lg px-2 hover:bg-pick">
              <span
                className={`figures grid size-8 shrink-0 place-items-center rounded-full border-2 ${step.done ? "border-rim bg-rim text-on-rim" : "border-line text-soft"}`}
                aria-hidden="true"
              >
                {step.done ? "✓" : n + 1}
              </span>
              <span>
                <span className="block font-semibold">
                  {step.what}
                  {step.done ? <span className="sr-only">, done</span> : null}
                </span>
                <span className="block text-[14px] text-soft">{step.how}</span>
              </span>
            </Link>
          </li>
        ))}
      </ol>
    </section>
  );
}
