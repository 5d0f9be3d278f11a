import { NavLink } from "react-router";

export interface PartTabsProps {
  label: string;
  /** The address of the place; its first part stands there, the others below it. */
  at: string;
  parts: readonly { path: string; name: string }[];
}

/** The parts of a place, one beside the other under its name. */
export function PartTabs({ label, at, parts }: PartTabsProps) {
  return (
    <nav aria-label={label} className="-mx-1 flex flex-wrap gap-1">
      {parts.map((part) => (
        <NavLink
          key={part.path}
          end
          to={part.path ? `${at}/${part.path}` : at}
          className={({ isActive }) =>
            `inline-flex min-h-11 items-center rounded-full px-3.5 text-[15px] font-semibold ${isActive ? "bg-rim text-on-rim" : "text-rim hover:bg-pick"}`
          }
        >
          {part.name}
        </NavLink>
      ))}
    </nav>
  );
}
