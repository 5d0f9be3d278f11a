import { NavLink } from "react-router";

const PARTS = [
  { path: "", name: "Workbench" },
  { path: "/card", name: "Card" },
  { path: "/versions", name: "Versions" },
] as const;

/** The three sides of a spec: where it is designed, what staff read, what became of it. */
export function SpecParts({ spec }: { spec: string }) {
  return (
    <nav aria-label="Sides of this spec" className="flex gap-1">
      {PARTS.map((part) => (
        <NavLink
          key={part.name}
          end
          to={`/specs/${spec}${part.path}`}
          className={({ isActive }) =>
            `inline-flex min-h-11 items-center rounded-full px-3.5 text-[15px] font-semibold ${isActive ? "bg-pick text-rim" : "text-soft hover:bg-pick"}`
          }
        >
          {part.name}
        </NavLink>
      ))}
    </nav>
  );
}
