import { useParams } from "react-router";
import { PartTabs } from "../../parts/PartTabs";
import { MenuPart } from "./menu/MenuPart";
import { ParsPart } from "./pars/ParsPart";
import { PeoplePart } from "./people/PeoplePart";
import { SuppliersPart } from "./suppliers/SuppliersPart";
import { TodayPart } from "./today/TodayPart";

const PARTS = [
  { path: "", name: "Today", part: TodayPart },
  { path: "menu", name: "Menu", part: MenuPart },
  { path: "pars", name: "Pars and days", part: ParsPart },
  { path: "people", name: "Who is in", part: PeoplePart },
  { path: "suppliers", name: "Suppliers", part: SuppliersPart },
] as const;

/** What the day needs, and what that follows from. */
export function PlanView() {
  const { part = "" } = useParams();
  const Part = (PARTS.find((item) => item.path === part) ?? PARTS[0]).part;
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <Part tabs={<PartTabs label="Parts of Plan" at="/plan" parts={PARTS} />} />
    </main>
  );
}
