"""Straining: solids leave and retain liquid; sieve, cloth, paper, one after another."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import ClassVar

from ..base.messages import Computed, Message, grams, listed, message, template
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..materials.softening import pulp_keeps
from ..materials.vessel_state import Outcome, OutgoingStream, Piece, StepContext, VesselState
from ..properties.sugar import undissolved_sucrose_g
from .step import Step, amount_in, choice, flag, minutes, number, optional_range, prior, share_in

PRESSED_KEEPS = 0.5
"""Share of the held liquid that stays in the solids after pressing; house experience, not a standard."""
DEFAULT_HOLD_G_G = Range(0.75, 0.4, 1.2)
"""Liquid held per gram of solids as they went in; house experience, not a standard."""
_TITLES: Mapping[tuple[str, bool], Message] = {
    ("sieve", False): message("Strain, no pressing"),
    ("sieve", True): message("Strain and press"),
    ("sieve_unstirred", False): message("Strain and let it drip, unstirred"),
    ("sieve_unstirred", True): message("Strain and let it drip, unstirred, then press"),
    ("cloth", False): message("Strain through a cloth"),
    ("cloth", True): message("Strain through a cloth, then press"),
    ("bag", False): message("Hang in a bag and let it drip"),
    ("bag", True): message("Hang in a bag and let it drip, then press"),
}
"""The sentence by what it is strained through, and whether it is pressed."""
_WORTH_SAYING_G, _DRY_SUGAR_G = 50.0, 0.5
_PIECE_HOLDS = 0.4
"""Pieces hold liquid on their outside only: so much of what the same weight of leaf would; house experience."""


def held_g(solids_g: Mapping[str, float], hold_g_g: Mapping[str, float]) -> float:
    """Returns the liquid [g] that solids retain: Σ mass that went in × hold. 12 g of leaf at 0.75 retain 9 g. Error 30 % and more. Source: house experience."""
    return math.fsum(mass * hold_g_g[key] for key, mass in solids_g.items())


def draining_g(state: VesselState, keeps: float) -> dict[str, float]:
    """Returns the mass of solids by material [g, as they went in], with pulp multiplied by `keeps` [-], from which the retained liquid is computed. Source:
    house experience.
    """
    pulp = state.pulp_g
    # Pulp drains by how it is strained; leaf, spice and nut by their own hold.
    return {key: grams - (1.0 - keeps) * min(grams, pulp.get(key, 0.0)) for key, grams in state.solids_g.items()}


def clinging_g(pieces: Sequence[Piece], holds: Mapping[str, float]) -> float:
    """Returns the liquid [g] that clings to pieces: 0.4 of what the same mass of leaf would retain. 70 g of spent peel at 0.75 g/g: 21 g. Source: house
    experience.
    """
    return _PIECE_HOLDS * math.fsum(piece.contents.mass_g * holds[piece.material] for piece in pieces)


def undissolved_at(contents: Contents, t_c: float) -> float:
    """Returns the sucrose [g] that is undissolved in a vessel at `t_c` [°C; taken as 0 to 100 °C]. Source: `undissolved_sucrose_g`."""
    return undissolved_sucrose_g(contents, min(100.0, max(0.0, t_c)))


def strain(contents: Contents, held: float, *, passes: float = 0.0, t_c: float = 20.0) -> tuple[Contents, Contents]:
    """Returns (what runs through, what stays in the sieve) when plant matter is taken out at `t_c` [°C] with `held` [g] of liquid; a share `passes` [0 to 1] of
    the solids goes through.

    Sugar beyond saturation stays: dry sugar does not run through a sieve. Raises Refusal if the solids would retain more liquid than there is. 1 000 g of
    liquid with 10 g of leaf holding 7.5 g gives 992.5 g. Error: that of the hold, 30 % and more. Source: mass balance; `undissolved_sucrose_g`.
    """
    # Undissolved sugar is a solid too, and stays with them.
    solids, dry = contents.of("insolubles"), undissolved_at(contents, t_c)
    liquid = contents.solution.taking("sucrose", dry) if dry else contents.solution
    if held >= liquid.mass_g:
        raise Refusal(
            message("The solids would hold {held} g of liquid back", held=Computed(held, decimals=0)),
            bound=message("there are {mass} g", mass=Computed(liquid.mass_g, decimals=0)),
            remedy=message("Use less of the solids, press them, or check the hold"),
            code="nothing_drains",
        )
    share = held / liquid.mass_g
    # What is held back has the composition of what runs through.
    through, stays = liquid.scaled(1.0 - share), liquid.scaled(share) if held else Contents()
    if dry:
        stays = stays + Contents({"sucrose": dry})
    if solids:
        stays = stays + Contents({"insolubles": solids * (1.0 - passes)})
        through = through + Contents({"insolubles": solids * passes}) if passes else through
    return through, stays


@dataclass(frozen=True, slots=True)
class Strain(Step):
    """The solids are taken out with the liquid that they retain (`hold_g_g` per gram that went in, else each material's own).

    `through`: a sieve that is stirred, a sieve left alone, a cloth left to drip or a hung bag; it decides how much of the liquid pulp retains.
    """

    verb: ClassVar[str] = "strain"
    family: ClassVar[str] = "strain"
    title: ClassVar[Message] = _TITLES["sieve", False]
    scaled_up: ClassVar[Message] = message("a fuller filter clogs: strain in parts, and expect more left in the cloth.")
    usual_hands_on_min: ClassVar[float] = 6.0
    usual_gear: ClassVar[tuple[str, ...]] = ("fine sieve",)
    through: str = choice("sieve", "sieve_unstirred", "cloth", "bag")
    pressed: bool = flag()
    hold_g_g: Range | None = optional_range("g per g", 20.0)
    passes_percent: float = number(0.0, 0.0, 90.0, "%", message("from 0 to 90 % of the pulp"))

    def sentence(self, *, first: bool) -> Message:
        del first
        return _TITLES[self.through, self.pressed]

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Retained = Σ mass that went in × hold, halved by pressing; that of pulp depends on sieve, cloth or bag.

        Pieces leave whole with what clings to them, and undissolved sugar stays behind. Source: house experience, mass balance.
        """
        holds = {
            key: amount_in(context, self.hold_g_g or context.facts(key).hold_g_g or DEFAULT_HOLD_G_G)
            for key in dict.fromkeys((*state.solids_g, *(piece.material for piece in state.pieces)))
        }
        # Plant matter in the liquid and pieces are counted apart: pieces hold liquid on their outside only.
        held = held_g(draining_g(state, pulp_keeps(self.through)), holds) + clinging_g(state.pieces, holds)
        passes = self.passes_percent / 100.0
        through, stays = strain(state.liquid, held * (PRESSED_KEEPS if self.pressed else 1.0), passes=passes, t_c=state.temperature_c)
        left = {key: grams * passes for key, grams in state.solids_g.items()} if passes else {}
        removed = VesselState(stays, dict(state.solids_g), state.pieces, state.temperature_c, state.clock_min)
        stays_in = VesselState(through, left, (), state.temperature_c, state.clock_min, state.open_since_min, state.hottest_c)
        if removed.mass_g <= 0:
            return Outcome(stays_in)
        return Outcome(stays_in, (OutgoingStream(self.by_product or "in the sieve", "strained", removed, bool(self.by_product)),))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        pulp = math.fsum(before.pulp_g.values())
        # What the sieve holds, split by what would hold how much: nothing, where all of it runs through.
        counted = math.fsum(draining_g(before, pulp_keeps(self.through)).values())
        counted += _PIECE_HOLDS * math.fsum(piece.contents.mass_g for piece in before.pieces)
        if pulp >= _WORTH_SAYING_G and after.outgoing and counted > 0:
            now = pulp_keeps(self.through) * (PRESSED_KEEPS if self.pressed else 1.0)
            # The liquid that the pulp would retain without stirring, at the mean hold of all solids.
            held = after.outgoing[0].state.liquid.solution.mass_g * pulp * pulp_keeps(self.through) / counted / now
            ways = listed(
                (
                    message("{mass} stirred through a sieve", mass=grams(held * pulp_keeps("sieve"))),
                    message("{mass} left to drip in a cloth", mass=grams(held * pulp_keeps("cloth"))),
                    message("{mass} hung in a bag", mass=grams(held * pulp_keeps("bag"))),
                    message("{mass} stirred and pressed", mass=grams(held * pulp_keeps("sieve") * PRESSED_KEEPS)),
                ),
                "comma",
            )
            text = message("{pulp} of fruit are pulp by now and keep back liquid: {ways}.", pulp=grams(pulp), ways=ways)
            yield self.remark("pulp_keeps", "note", text)
        dry = after.outgoing[0].state.liquid.of("sucrose") if after.outgoing else 0.0
        stuck = min(dry, undissolved_at(before.liquid, before.temperature_c))
        if stuck > _DRY_SUGAR_G:
            yield self.remark(
                "sugar_in_the_sieve",
                "check",
                message("{stuck} of the sugar have not dissolved and stay in the sieve.", stuck=grams(stuck)),
                message("Rinse the solids with the juice or a little warm water, or give it longer"),
            )


_FILTER_HOLDS = {
    "cloth": Range(25.0, 12.0, 45.0),
    "paper": Range(14.0, 8.0, 24.0),
    "bag": Range(40.0, 20.0, 70.0),
    "carbon": Range(60.0, 30.0, 100.0),
}
"""Liquid [g] that one wet filter keeps; house experience, not a standard: weigh it dry and wet once."""


@dataclass(frozen=True, slots=True)
class Filter(Step):
    """Run through wet paper or cloth: the haze stays behind, with what each filter absorbs."""

    verb: ClassVar[str] = "filter"
    title: ClassVar[Message] = template("Filter through {kind}")
    family: ClassVar[str] = "strain"
    usual_hands_on_min: ClassVar[float] = 6.0
    usual_gear: ClassVar[tuple[str, ...]] = ("paper filters", "funnel")
    usual_check: ClassVar[str] = "runs clear"
    kind: str = choice("paper", "cloth", "bag", "carbon")
    filters: float = number(1.0, 1.0, 50.0, "filters", message("from 1 to 50 filters"))
    minutes: float = minutes(60.0)
    hold_g: Range | None = optional_range("g per filter", 500.0)
    catches: Range = prior(0.97, 0.9, 1.0, "of the pulp", 1.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Pulp × `catches` and filters × their hold stay behind. Raises Refusal for pieces, which need a sieve first. Source: house experience, mass balance."""
        if state.pieces:
            raise Refusal(message("Pieces clog a filter"), remedy=message("Strain them out first"), code="pieces_in_filter")
        catches = share_in(context, self.catches)
        held = amount_in(context, self.hold_g or _FILTER_HOLDS[self.kind]) * self.filters
        through, stays = strain(state.liquid, held, passes=1.0 - catches, t_c=state.temperature_c)
        left = {key: grams * (1.0 - catches) for key, grams in state.solids_g.items()} if catches < 1.0 else {}
        removed = VesselState(stays, dict(state.solids_g), (), state.temperature_c, state.clock_min)
        return Outcome(
            VesselState(through, left, (), state.temperature_c, state.clock_min, state.open_since_min, state.hottest_c),
            (OutgoingStream(self.by_product or "in the filter", "filtered", removed, bool(self.by_product)),),
        )
