import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { NotFetched, Shape } from "../../../parts/Notice";
import { BackupMade } from "./BackupMade";
import { CloseHouse } from "./CloseHouse";
import { HouseArchive } from "./HouseArchive";
import { HouseForm } from "./HouseForm";
import { HouseUnits } from "./HouseUnits";
import { WipeDemo } from "./WipeDemo";

/** What the house is, each setting with what it changes. */
export function SettingsPart() {
  const house = useQuery(ask.house());
  if (house.isPending) return <Shape rows={6} />;
  if (!house.data) return <NotFetched questions={[house]} />;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[1.3fr_1fr]">
      <HouseForm house={house.data} />
      <div className="grid gap-4">
        <HouseUnits />
        <BackupMade />
        <HouseArchive />
        {house.data.is_demo ? <WipeDemo house={house.data.name} /> : <CloseHouse house={house.data} />}
      </div>
    </div>
  );
}
