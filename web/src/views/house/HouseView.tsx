import { useParams } from "react-router";
import { PartTabs } from "../../parts/PartTabs";
import { canLead, useSession } from "../../session/session";
import { ApiPart } from "./api/ApiPart";
import { ClearedPart } from "./cleared/ClearedPart";
import { DevicesPart } from "./devices/DevicesPart";
import { GroupPart } from "./group/GroupPart";
import { HistoryPart } from "./history/HistoryPart";
import { MaterialsPart } from "./materials/MaterialsPart";
import { MinePart } from "./mine/MinePart";
import { PeoplePart } from "./people/PeoplePart";
import { RegisterPart } from "./register/RegisterPart";
import { RulesPart } from "./rules/RulesPart";
import { SettingsPart } from "./settings/SettingsPart";

const PARTS = [
  { path: "", name: "Mine", part: MinePart, leads: false },
  { path: "settings", name: "The house", part: SettingsPart, leads: true },
  { path: "register", name: "Gear and places", part: RegisterPart, leads: true },
  { path: "materials", name: "Materials", part: MaterialsPart, leads: true },
  { path: "rules", name: "Rules", part: RulesPart, leads: true },
  { path: "people", name: "People", part: PeoplePart, leads: true },
  { path: "cleared", name: "Who makes what", part: ClearedPart, leads: true },
  { path: "group", name: "Group", part: GroupPart, leads: true },
  { path: "devices", name: "Devices", part: DevicesPart, leads: true },
  { path: "api", name: "For scripts", part: ApiPart, leads: true },
  { path: "history", name: "History", part: HistoryPart, leads: true },
] as const;

/** What is mine (password, PIN, sessions) and, for a lead, what is the house's: what it is, its people, devices and history. */
export function HouseView() {
  const session = useSession();
  const { part = "" } = useParams();
  const mine = PARTS.filter((item) => !item.leads || canLead(session));
  const Part = (mine.find((item) => item.path === part) ?? PARTS[0]).part;
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-1 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-[32px]">{session.name}</h1>
        {mine.length > 1 ? <PartTabs label="Parts of the house" at="/house" parts={mine} /> : null}
      </div>
      <p className="mb-4 text-soft">
        {session.role} at {session.house}
        {session.device ? `, on ${session.device.name}` : ", on a device that is not the house's"}
      </p>
      <Part />
    </main>
  );
}
