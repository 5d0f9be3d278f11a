import { Job } from "../../../parts/Job";

/** Everything that the site stores about me, as one file. */
export function AboutMe() {
  return (
    <section className="tray p-5" aria-label="What is stored about me">
      <h2 className="text-[20px]">What is stored about me</h2>
      <p className="mb-3 text-soft">Every row with your name in it, in every house that you were in, as one open file.</p>
      <div className="flex flex-wrap items-center gap-2">
        <Job kind="mine" file="Save the file">
          Gather it
        </Job>
      </div>
    </section>
  );
}
