import { Key } from "../../../parts/Button";

const KEYS = [
  ["N", "type a step"],
  ["↑↓", "walk the river"],
  ["F", "flag"],
  ["W", "working"],
  ["Z", "close up"],
] as const;

/** The keys that are used most, and how a number that was read looks beside one that was worked out. */
export function BenchFoot() {
  return (
    <footer className="mt-3 hidden flex-wrap items-center justify-between gap-4 text-[14px] text-soft md:flex">
      <span className="flex flex-wrap gap-4">
        {KEYS.map(([key, does]) => (
          <span key={key}>
            <Key>{key}</Key> {does}
          </span>
        ))}
      </span>
      <span>
        <span className="figures worked">40.6</span> worked out <span className="figures was-read ml-3">8.2</span> read with an instrument
      </span>
    </footer>
  );
}
