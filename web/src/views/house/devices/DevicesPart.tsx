import { Devices } from "./Devices";
import { Tokens } from "./Tokens";

/** What is at work for the house without a person of its own: its tablets, and its scripts. */
export function DevicesPart() {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[1.2fr_1fr]">
      <Devices />
      <Tokens />
    </div>
  );
}
