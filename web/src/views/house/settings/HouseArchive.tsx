import { Job } from "../../../parts/Job";

/** Everything of the house as one file. */
export function HouseArchive() {
  return (
    <section className="tray p-5" aria-label="Archive of the house">
      <h2 className="text-[20px]">Archive</h2>
      <p className="mb-3 text-soft">
        Everything of this house in one open file: specs, batches, bottles, people, history. Nobody signs in by it. Another site takes it in
        with bin/house import.
      </p>
      <div className="flex flex-wrap items-center gap-2">
        <Job kind="house" file="Save the archive">
          Make the archive
        </Job>
      </div>
    </section>
  );
}
