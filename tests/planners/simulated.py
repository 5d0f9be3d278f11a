"""`bin/test sim`: 2,000 drawn panels of each kind and twelve weeks of a bar, printed with what was promised; ends with an error where a promise is not kept."""

from __future__ import annotations

import sys
from itertools import product

from tests.planners.drawn_panels import (
    GUESS,
    drawn_shares,
    false_alarms,
    false_pairs_of_ranks,
    false_preferences,
    false_scores,
    misses,
    wrong_ends,
)
from tests.planners.simulated_weeks import bar, run

WEEK_SEEDS = (11, 12, 13)
PANELS, SLACK_COVER, SLACK_ALARM = 2000, 0.015, 0.01


def main() -> int:
    """Prints one line for each kind of panel. Returns 1 if a bound misses too often, or too much is shown that is not there."""
    broken = 0

    def told(what: str, found: float, most: float) -> None:
        nonlocal broken
        conservative = "  conservative" if found < 0.3 * most else ""
        broken += found > most
        print(f"  {'FAILED' if found > most else 'ok    '} {what:<74} {100 * found:5.2f} %, at most {100 * most:.1f} %{conservative}")

    print("Bounds of a share that miss the truth (one-sided, 5 % each; 1.5 points more at most):")
    for (tasters, rounds), share, spread in product(
        ((6, 2), (12, 1), (12, 2), (24, 1), (8, 4), (40, 1)), (0.0, 0.1, 0.2, 0.5, 0.8), (0.0, 0.3, 1.0)
    ):
        if rounds == 1 and spread:
            continue
        above, below = misses(drawn_shares(tasters, rounds, share, spread, panels=PANELS, seed=17), share, GUESS)
        told(f"{tasters} tasters × {rounds}, {share:.0%} can tell, spread {spread}: too low", above, 0.05 + SLACK_COVER)
        told(f"{tasters} tasters × {rounds}, {share:.0%} can tell, spread {spread}: too high", below, 0.05 + SLACK_COVER)
    print("False alarms (5 %; one point more at most):")
    for tasters, rounds in ((6, 2), (12, 1), (24, 1), (12, 4)):
        told(f"a difference, {tasters} tasters × {rounds}", false_alarms(tasters, rounds, panels=PANELS, seed=23), 0.05 + SLACK_ALARM)
    for (tasters, rounds), spread in product(((16, 1), (12, 2), (30, 1)), (0.0, 0.5, 1.0)):
        told(
            f"a preference, {tasters} tasters × {rounds}, firmness {spread}",
            false_preferences(tasters, rounds, spread, panels=PANELS, seed=29),
            0.05 + SLACK_ALARM,
        )
    for tasters, samples in ((9, 4), (16, 3), (20, 6)):
        told(
            f"a pair of ranks, {tasters} tasters, {samples} samples",
            false_pairs_of_ranks(tasters, samples, panels=PANELS, seed=31),
            0.05 + SLACK_ALARM,
        )
    for tasters, samples, rounds in ((11, 6, 1), (8, 4, 2), (20, 3, 1)):
        alarms, missed = false_scores(tasters, samples, panels=PANELS, seed=37, rounds=rounds)
        told(f"a pair of scores, {tasters} tasters × {rounds}, {samples} samples", alarms, 0.05 + SLACK_ALARM)
        told(f"a mean outside its interval (10 %), {tasters} tasters × {rounds}, {samples} samples", missed, 0.10 + SLACK_COVER)
    for line in (0.3, 0.5):
        difference, kept = wrong_ends(40, line, panels=PANELS, seed=41)
        told(f"a rule that ends a panel, line {line:.0%}: a difference that is not there", difference, 0.05 + SLACK_ALARM)
        told(f"a rule that ends a panel, line {line:.0%}: kept where it is reached", kept, 0.05 + SLACK_ALARM)
    print("Twelve weeks of a bar of sixteen preps, by its par table alone and by the list (three seeds):")
    for seed in WEEK_SEEDS:
        world = bar(seed)
        table, listed = run(world, "table"), run(world, "list", checked=True)
        kept = listed.ran_out <= table.ran_out and listed.binned_ml < table.binned_ml and not listed.faults
        broken += not kept
        print(
            f"  {'ok    ' if kept else 'FAILED'} seed {seed}: ran out {listed.ran_out} times, the table {table.ran_out}; "
            f"binned {listed.binned_ml / 1000:.1f} L, the table {table.binned_ml / 1000:.1f} L; {listed.faults} faults"
        )
    print(f"{broken} promises broken." if broken else "Every promise is kept.")
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main())
