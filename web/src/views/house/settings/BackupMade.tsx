import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { NotFetched, Notice } from "../../../parts/Notice";
import { GAP } from "../../../parts/numbers";
import { moment } from "../../../parts/say";
import { useSession } from "../../../session/session";

const MEGA = 1_000_000;

/** When the last good backup of the site was made; a missed one is said. */
export function BackupMade() {
  const { zone } = useSession();
  const backup = useQuery(ask.backup());
  const made = backup.data;
  return (
    <section className="tray p-5" aria-label="Backup">
      <h2 className="mb-1 text-[20px]">Backup</h2>
      <NotFetched questions={[backup]} />
      {made?.at ? (
        <p>
          The last good one was made <b>{moment(made.at, zone)}</b>
          <span className="block text-[14px] text-soft">
            {made.name}, {(made.size / MEGA).toFixed(1)}
            {GAP}MB; it was read back before it was encrypted.
          </span>
        </p>
      ) : null}
      {made?.too_old ? (
        <div className="mt-2">
          <Notice severity="check">
            {made.at ? "One was missed since. " : "None has been made yet. "}
            Ask whoever runs this site: bin/backup makes one, and one every day with --every 24.
          </Notice>
        </div>
      ) : null}
    </section>
  );
}
