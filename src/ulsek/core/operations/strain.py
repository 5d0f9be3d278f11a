"""Strain: solids leave, and hold liquid back; sieve, cloth, paper, one after another."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import ClassVar

from ..contents import Contents
from ..matter import Bench, Leaving, Matter, Outcome
from ..ranges import Range
from ..refusals import Refusal
from ..steps import Step, choice, doubtful, flag, minutes, number, prior

PRESSED_KEEPS = 0.5
"""Share of the held liquid that stays in the solids after pressing; house experience, not a standard."""
DEFAULT_HOLD_G_G = Range(0.75, 0.4, 1.2)
"""Liquid held per gram of solids as they went in; house experience, not a standard."""
_PIECE_HOLDS = 0.4
"""Pieces hold liquid on their outside only: so much of what the same weight of leaf would; house experience."""


def held_g(solids_g: Mapping[str, float], hold_g_g: Mapping[str, float]) -> float:
    """Liquid [g] that solids hold back: Σ grams that went in × hold. 12 g of leaf at 0.75 hold 9 g. Error 30 % and more. Source: house experience."""
    return math.fsum(mass * hold_g_g[key] for key, mass in solids_g.items())


def strain(contents: Contents, held: float, *, passes: float = 0.0) -> tuple[Contents, Contents]:
    """(what runs through, what stays in the sieve) when plant matter is taken out with `held` [g] of liquid; a share `passes` [0 to 1] of the
    solids goes through.

    Refuses when the solids would hold more liquid than there is. 1 000 g of liquid with 10 g of leaf holding 7.5 g gives 992.5 g.
    Error: that of the hold, 30 % and more. Source: mass balance.
    """
    liquid, solids = contents.liquid, contents.of("insolubles")
    if held >= liquid.mass_g:
        raise Refusal(
            f"The solids would hold {held:.0f} g of liquid back",
            bound=f"there are {liquid.mass_g:.0f} g",
            remedy="Use less of the solids, press them, or check the hold",
            code="nothing_drains",
        )
    share = held / liquid.mass_g
    through, stays = liquid.scaled(1.0 - share), liquid.scaled(share) if held else Contents()
    if solids:
        stays = stays + Contents({"insolubles": solids * (1.0 - passes)})
        through = through + Contents({"insolubles": solids * passes}) if passes else through
    return through, stays


@dataclass(frozen=True, slots=True)
class Strain(Step):
    """Take the solids out, with the liquid that they hold (`hold_g_g` per gram that went in, else each material's own)."""

    verb: ClassVar[str] = "strain"
    family: ClassVar[str] = "strain"
    scaled_up: ClassVar[str] = "a fuller filter clogs: strain in parts, and expect more left in the cloth."
    usual_hands_on_min: ClassVar[float] = 6.0
    usual_gear: ClassVar[tuple[str, ...]] = ("fine sieve",)
    pressed: bool = flag()
    hold_g_g: Range | None = doubtful("g per g", 20.0)
    passes_percent: float = number(0.0, 0.0, 90.0, "%", "from 0 to 90 % of the pulp")

    def act(self, matter: Matter, bench: Bench) -> Outcome:
        """Held = Σ grams that went in × hold, halved by pressing; pieces leave whole with what clings to them. Source: house experience, mass balance."""
        floating = {key: max(0.0, bench.of(self.hold_g_g or bench.facts(key).hold_g_g or DEFAULT_HOLD_G_G)) for key in matter.solids_g}
        clinging = {
            piece.material: max(0.0, bench.of(self.hold_g_g or bench.facts(piece.material).hold_g_g or DEFAULT_HOLD_G_G))
            for piece in matter.pieces
        }
        held = held_g(matter.solids_g, floating) + _PIECE_HOLDS * math.fsum(
            piece.contents.mass_g * clinging[piece.material] for piece in matter.pieces
        )
        passes = self.passes_percent / 100.0
        through, stays = strain(matter.liquor, held * (PRESSED_KEEPS if self.pressed else 1.0), passes=passes)
        left = {key: grams * passes for key, grams in matter.solids_g.items()} if passes else {}
        gone = Matter(stays, dict(matter.solids_g), matter.pieces, matter.temperature_c, matter.clock_min)
        stays_in = Matter(through, left, (), matter.temperature_c, matter.clock_min, matter.open_since_min, matter.hottest_c)
        if gone.mass_g <= 0:
            return Outcome(stays_in)
        return Outcome(stays_in, (Leaving(self.by_product or "in the sieve", "strained", gone, bool(self.by_product)),))


_FILTER_HOLDS = {
    "cloth": Range(25.0, 12.0, 45.0),
    "paper": Range(14.0, 8.0, 24.0),
    "bag": Range(40.0, 20.0, 70.0),
    "carbon": Range(60.0, 30.0, 100.0),
}
"""Liquid [g] that one wet filter keeps; house experience, not a standard: weigh it dry and wet once."""


@dataclass(frozen=True, slots=True)
class Filter(Step):
    """Run it through wet paper or cloth: the haze stays behind, with what each filter drinks."""

    verb: ClassVar[str] = "filter"
    family: ClassVar[str] = "strain"
    usual_hands_on_min: ClassVar[float] = 6.0
    usual_gear: ClassVar[tuple[str, ...]] = ("paper filters", "funnel")
    usual_check: ClassVar[str] = "runs clear"
    kind: str = choice("paper", "cloth", "bag", "carbon")
    filters: float = number(1.0, 1.0, 50.0, "filters", "from 1 to 50 filters")
    minutes: float = minutes(60.0)
    hold_g: Range | None = doubtful("g per filter", 500.0)
    catches: Range = prior(0.97, 0.9, 1.0, "of the pulp", 1.0)

    def act(self, matter: Matter, bench: Bench) -> Outcome:
        """Pulp × `catches` and filters × their hold stay behind. Refuses pieces, which belong in a sieve first. Source: house experience, mass balance."""
        if matter.pieces:
            raise Refusal("Pieces clog a filter", remedy="Strain them out first", code="pieces_in_filter")
        catches = min(1.0, max(0.0, bench.of(self.catches)))
        held = max(0.0, bench.of(self.hold_g or _FILTER_HOLDS[self.kind])) * self.filters
        through, stays = strain(matter.liquor, held, passes=1.0 - catches)
        left = {key: grams * (1.0 - catches) for key, grams in matter.solids_g.items()} if catches < 1.0 else {}
        gone = Matter(stays, dict(matter.solids_g), (), matter.temperature_c, matter.clock_min)
        return Outcome(
            Matter(through, left, (), matter.temperature_c, matter.clock_min, matter.open_since_min, matter.hottest_c),
            (Leaving(self.by_product or "in the filter", "filtered", gone, bool(self.by_product)),),
        )
