import { useParams } from "react-router";
import { PartTabs } from "../../parts/PartTabs";
import { CasesPart } from "./cases/CasesPart";
import { DeskPart } from "./desk/DeskPart";
import { KeepsPart } from "./keeps/KeepsPart";
import { PlanPart } from "./plan/PlanPart";
import { SkinsPart } from "./skins/SkinsPart";
import { StretchPart } from "./stretch/StretchPart";
import { TrialsPart } from "./trials/TrialsPart";

const PARTS = [
  { path: "", name: "In hand", part: CasesPart },
  { path: "plan", name: "Cut plan", part: PlanPart },
  { path: "stretch", name: "Stretch", part: StretchPart },
  { path: "skins", name: "Skins", part: SkinsPart },
  { path: "keeps", name: "Keeps", part: KeepsPart },
  { path: "trials", name: "Trials and ledger", part: TrialsPart },
  { path: "desk", name: "Clear or strengthen", part: DeskPart },
] as const;

/** A case of fruit, from the supplier to the last peel. */
export function CitrusView() {
  const { part = "" } = useParams();
  const Part = (PARTS.find((item) => item.path === part) ?? PARTS[0]).part;
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-[32px]">Citrus</h1>
        <PartTabs label="Parts of Citrus" at="/citrus" parts={PARTS} />
      </div>
      <Part />
    </main>
  );
}
