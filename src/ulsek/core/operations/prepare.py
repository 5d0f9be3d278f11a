"""Preparation of fruit before it meets a liquid: wash, peel, zest, cut, core, separate, juice and others."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

from ..base.messages import Computed, Message, listed, message, template
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..materials.vessel_state import Outcome, OutgoingStream, StepContext, VesselState, outgoing_stream, summed
from .pieces import CUT, FLESH_GIVES, dried, flesh_juice_of, juice_of, need_pieces, need_solids, take_parts
from .step import Step, amount_in, celsius, choice, flag, minutes, optional_range, prior, share_in, text

_HAND = Range(1.0, 0.85, 1.12)
"""Juice of one person against another with the same tool. House experience, not a standard."""
_BLENDS_BELOW_C = 45.0
"""Temperature of a liquid [°C] above which its steam can lift the lid of a closed blender: a warning is given. House experience."""
METHOD = {"reamer": 1.0, "press": 1.06, "machine": 1.08, "extractor": 1.15, "blender": 1.25}
"""Juice against a hand reamer, by mass, pulp included where it passes; house experience, not a standard."""


@dataclass(frozen=True, slots=True)
class Wash(Step):
    """Rinsed, dried and inspected; what is bruised goes. Nothing else changes."""

    verb: ClassVar[str] = "wash"
    title: ClassVar[Message] = template("Wash {names}")
    title_alone: ClassVar[Message] = message("Wash")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 5.0


@dataclass(frozen=True, slots=True)
class WarmRoll(Step):
    """Whole fruit warmed and rolled, which gives more juice."""

    verb: ClassVar[str] = "warm_roll"
    title: ClassVar[Message] = template("Warm {names} to {temperature_c} and roll")
    title_alone: ClassVar[Message] = template("Warm to {temperature_c} and roll")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 8.0
    temperature_c: float = celsius(35.0, 10.0, 60.0)
    gain: Range = prior(1.06, 0.98, 1.15, "times", 2.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """The juice yield of every piece × `gain`. Source: house experience, not a standard."""
        need_pieces(state, "roll")
        gain = context.value_of(self.gain)
        return Outcome(
            replace(state, pieces=tuple(replace(piece, gain=piece.gain * gain) for piece in state.pieces), temperature_c=self.temperature_c)
        )


@dataclass(frozen=True, slots=True)
class Cut(Step):
    """Cut into halves, wheels or dice: exchanges faster, and begins to brown."""

    verb: ClassVar[str] = "cut"
    title: ClassVar[Message] = template("Cut {names}")
    title_alone: ClassVar[Message] = message("Cut")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 8.0
    usual_gear: ClassVar[tuple[str, ...]] = ("board", "knife")

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Pieces exchange `CUT` times as fast; nuts, spices, roots and herbs, which give everything at once, stay as they are. No mass moves."""
        del context
        need_solids(state, "cut")
        return Outcome(replace(state, pieces=tuple(replace(piece, cut=max(CUT, piece.cut)) for piece in state.pieces)))


@dataclass(frozen=True, slots=True)
class Crush(Step):
    """Crushed or bruised: part of the juice runs at once, the rest exchanges fast."""

    verb: ClassVar[str] = "crush"
    title: ClassVar[Message] = template("Crush {names}")
    title_alone: ClassVar[Message] = message("Crush")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 5.0
    runs: Range = prior(0.45, 0.25, 0.65, "of its juice", 1.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """`runs` of the juice leaves the pieces for the liquid; nuts, spices and herbs have none. Source: house experience, mass balance."""
        need_solids(state, "crush")
        # What has not run stays in the pieces, which from now on exchange like crushed ones.
        juice, left = juice_of(state.pieces, share_in(context, self.runs))
        return Outcome(replace(state, liquid=state.liquid + juice, pieces=left))


@dataclass(frozen=True, slots=True)
class Muddle(Crush):
    """Pressed in the vessel with a muddler: less runs than by crushing."""

    verb: ClassVar[str] = "muddle"
    title: ClassVar[Message] = template("Muddle {names}")
    title_alone: ClassVar[Message] = message("Muddle")
    usual_gear: ClassVar[tuple[str, ...]] = ("muddler",)
    runs: Range = prior(0.25, 0.10, 0.40, "of its juice", 1.0)


@dataclass(frozen=True, slots=True)
class _TakesOff(Step):
    """Base of the verbs that take named parts off whole pieces, as an outgoing stream. `ready`: what goes in was taken off before, so nothing changes."""

    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    parts: ClassVar[tuple[str, ...]] = ()
    doing: ClassVar[str] = ""
    taken: Range = prior(0.9, 0.8, 0.98, "of it", 1.0)
    ready: bool = flag()

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """`taken` of the named parts leaves; the rest stays on. Raises Refusal for a vessel without such parts. Source: house experience, mass balance."""
        if self.ready:
            return Outcome(state)
        need_pieces(state, self.doing)
        # A tool leaves part of the skin on; the share is uncertain, the mass of what came off is not.
        stay, off = take_parts(state.pieces, self.parts, share_in(context, self.taken))
        if not off:
            raise Refusal(
                message("Nothing here has {parts} to {doing}", parts=listed(self.parts, "or"), doing=self.doing),
                remedy=message("Say in Stores what the fruit is made of"),
                code="no_such_part",
            )
        removed = OutgoingStream(
            self.by_product or self.parts[0], self.verb, VesselState(pieces=off, clock_min=state.clock_min), bool(self.by_product)
        )
        return Outcome(replace(state, pieces=stay), (removed,))


@dataclass(frozen=True, slots=True)
class Zest(_TakesOff):
    """The coloured skin is taken off, before the fruit is juiced."""

    verb: ClassVar[str] = "zest"
    title: ClassVar[Message] = template("Zest {names}")
    title_alone: ClassVar[Message] = message("Zest")
    usual_hands_on_min: ClassVar[float] = 12.0
    usual_gear: ClassVar[tuple[str, ...]] = ("zester",)
    parts: ClassVar[tuple[str, ...]] = ("zest",)
    doing: ClassVar[str] = "zest"
    taken: Range = prior(0.75, 0.55, 0.95, "of the zest", 1.0)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del after
        if any("juice" in piece.parts and piece.parts["juice"].mass_g <= 0 for piece in before.pieces):
            yield self.remark("zest_after_juice", "check", message("Juiced fruit is hard to zest."), message("Zest before juicing"))


@dataclass(frozen=True, slots=True)
class Peel(_TakesOff):
    """The whole peel is taken off."""

    verb: ClassVar[str] = "peel"
    title: ClassVar[Message] = template("Peel {names}")
    title_alone: ClassVar[Message] = message("Peel")
    usual_hands_on_min: ClassVar[float] = 10.0
    usual_gear: ClassVar[tuple[str, ...]] = ("peeler",)
    parts: ClassVar[tuple[str, ...]] = ("peel", "zest")
    doing: ClassVar[str] = "peel"


@dataclass(frozen=True, slots=True)
class Core(_TakesOff):
    """Core, stone and pips are taken out."""

    verb: ClassVar[str] = "core"
    title: ClassVar[Message] = template("Core and stone {names}")
    title_alone: ClassVar[Message] = message("Core and stone")
    usual_hands_on_min: ClassVar[float] = 12.0
    usual_gear: ClassVar[tuple[str, ...]] = ("corer",)
    parts: ClassVar[tuple[str, ...]] = ("core", "stone", "pips")
    doing: ClassVar[str] = "core"
    taken: Range = prior(1.0, 0.97, 1.0, "of it", 1.0)


@dataclass(frozen=True, slots=True)
class Separate(Step):
    """One thing is parted into two: egg into white and yolk."""

    verb: ClassVar[str] = "separate"
    title: ClassVar[Message] = template("Separate {names}")
    title_alone: ClassVar[Message] = message("Separate")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 4.0
    part: str = text()

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """All of the named part leaves as a stream. Raises Refusal for a vessel without such a part. Source: mass balance."""
        del context
        need_pieces(state, "separate")
        # All of it: an egg is separated or it is not.
        stay, off = take_parts(state.pieces, (self.part,), 1.0)
        if not off:
            known = sorted({name for piece in state.pieces for name in piece.parts})
            raise Refusal(
                message("Nothing here has a part called “{part}”", part=self.part),
                bound=message("its parts are {known}", known=listed(known, "comma")),
                remedy=message("Name one of them"),
                code="no_such_part",
            )
        return Outcome(
            replace(state, pieces=stay),
            (OutgoingStream(self.by_product or self.part, "separate", VesselState(pieces=off), bool(self.by_product)),),
        )


@dataclass(frozen=True, slots=True)
class Juice(Step):
    """The fruit is juiced; the juice stays (or runs `into` another vessel), pressed fruit leaves. `ready`: what goes in was juiced before, so nothing changes."""

    verb: ClassVar[str] = "juice"
    title: ClassVar[Message] = template("Juice {names}")
    title_alone: ClassVar[Message] = message("Juice")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 12.0
    method: str = choice("reamer", "press", "machine", "extractor", "blender")
    yield_share: Range | None = optional_range("of the fruit's typical juice", 2.0)
    temperature_c: float = celsius(20.0, 0.0, 60.0)
    ready: bool = flag()

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """The juice that the material typically holds × the method (or the house's own `yield_share`). Error: ±20 % of the yield.

        Raises Refusal for a vessel without fruit that holds juice. Source: house experience for methods, juice tables for the fruit, mass balance.
        """
        if self.ready:
            return Outcome(state)
        if state.solids_g and not state.pieces:
            return self._from_solids(state, context)
        need_pieces(state, "juice")
        usual = METHOD[self.method]
        # One hand against another, with the same fruit and tool.
        share = context.value_of(self.yield_share or Range(usual, usual * _HAND.low, usual * _HAND.high))
        juice, left = juice_of(state.pieces, max(0.0, share))
        if juice.mass_g <= 0:
            juice, left = flesh_juice_of(state.pieces, max(0.0, share))
        if juice.mass_g <= 0:
            raise Refusal(
                message("Nothing here holds juice"), remedy=message("Say in Stores how much juice the fruit gives"), code="no_such_part"
            )
        pressed = OutgoingStream(
            self.by_product or "pressed fruit", "pressed", VesselState(pieces=left, clock_min=state.clock_min), bool(self.by_product)
        )
        return Outcome(replace(state, liquid=state.liquid + juice, pieces=(), temperature_c=self.temperature_c), (pressed,))

    def _from_solids(self, state: VesselState, context: StepContext) -> Outcome:
        """The liquid of plant matter whose juice nobody has described (ginger, herbs) runs off, as `flesh_juice_of` says; the rest leaves."""
        juice = state.liquid.solution.scaled(min(1.0, FLESH_GIVES * context.value_of(self.yield_share or _HAND)))
        left = VesselState(state.liquid + juice.scaled(-1.0), dict(state.solids_g), clock_min=state.clock_min)
        pressed = OutgoingStream(self.by_product or "pressed pulp", "pressed", left, bool(self.by_product))
        return Outcome(replace(state, liquid=juice, solids_g={}, temperature_c=self.temperature_c), (pressed,))


@dataclass(frozen=True, slots=True)
class Whip(Step):
    """Air is beaten in: the volume grows, the mass does not."""

    verb: ClassVar[str] = "whip"
    title: ClassVar[Message] = template("Whip {names}")
    title_alone: ClassVar[Message] = message("Whip")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 4.0


@dataclass(frozen=True, slots=True)
class Toast(Step):
    """Dry spice or nuts are toasted: a little water goes."""

    verb: ClassVar[str] = "toast"
    title: ClassVar[Message] = template("Toast {names} {minutes}")
    title_alone: ClassVar[Message] = template("Toast {minutes}")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 6.0
    usual_check: ClassVar[str] = "smells of itself, no smoke"
    temperature_c: float = celsius(160.0, 60.0, 240.0)
    minutes: float = minutes(6.0)
    loss_percent: Range = prior(4.0, 2.0, 7.0, "% of its weight", 60.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Water leaves, at most what there is, from pieces and from nuts, spices and seeds alike. Source: house experience, mass balance."""
        need_solids(state, "toast")
        share = amount_in(context, self.loss_percent) / 100.0

        def loses(contents: Contents) -> float:
            # Only water leaves while toasting: what smells is far below a gram.
            return min(share * contents.mass_g, contents.of("water"))

        return _without_water(state, loses, max(state.hottest_c, self.temperature_c))


def _without_water(state: VesselState, loses: Callable[[Contents], float], hottest_c: float) -> Outcome:
    """Returns the vessel when every piece, and the plant matter in it, has lost the water [g] that `loses` returns, and has cooled again. Source: mass balance."""
    pieces = [(piece, loses(piece.contents)) for piece in state.pieces]
    loose = loses(state.liquid) if state.liquid.mass_g else 0.0
    removed = math.fsum((loose, *(grams for _, grams in pieces)))
    left = replace(
        state,
        liquid=state.liquid.taking("water", loose) if loose else state.liquid,
        pieces=tuple(dried(piece, grams) for piece, grams in pieces),
        temperature_c=20.0,
        hottest_c=hottest_c,
    )
    return Outcome(left, (outgoing_stream("steam", "steam", Contents({"water": removed})),) if removed else ())


@dataclass(frozen=True, slots=True)
class Dehydrate(Step):
    """Slices or peel are dried to a moisture."""

    verb: ClassVar[str] = "dehydrate"
    title: ClassVar[Message] = template("Dry {names} {minutes} at {temperature_c}")
    title_alone: ClassVar[Message] = template("Dry {minutes} at {temperature_c}")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    usual_gear: ClassVar[tuple[str, ...]] = ("dehydrator",)
    usual_check: ClassVar[str] = "snaps when cool"
    temperature_c: float = celsius(55.0, 30.0, 90.0)
    minutes: float = minutes(480.0)
    moisture_percent: Range = prior(12.0, 8.0, 18.0, "% water left", 95.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Water leaves until `moisture_percent` of the rest is water. Raises Refusal for pieces that are drier already. Source: mass balance."""
        need_solids(state, "dry")
        share = share_in(context, self.moisture_percent, 95.0) / 100.0

        def loses(contents: Contents) -> float:
            dry = contents.mass_g - contents.of("water")
            # Dry matter stays, and is (1 − share) of what is left.
            water = contents.of("water") - dry * share / (1.0 - share)
            if water < 0:
                raise Refusal(
                    message("It is drier than {share} % water already", share=Computed(100 * share, decimals=0)),
                    bound=message("it holds {of} %", of=Computed(100 * contents.of("water") / contents.mass_g, decimals=0)),
                    remedy=message("Choose less"),
                )
            return water

        return _without_water(state, loses, max(state.hottest_c, self.temperature_c))


@dataclass(frozen=True, slots=True)
class Blend(Step):
    """Everything is blended: pieces become pulp in the liquid."""

    verb: ClassVar[str] = "blend"
    title: ClassVar[Message] = template("Blend {names}")
    title_alone: ClassVar[Message] = message("Blend")
    family: ClassVar[str] = "prepare"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 3.0
    usual_gear: ClassVar[tuple[str, ...]] = ("blender",)
    vented: bool = flag()

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Inside and solids of every piece join the liquid. Source: mass balance."""
        del context
        pulp: dict[str, float] = {}
        for piece in state.pieces:
            pulp[piece.material] = pulp.get(piece.material, 0.0) + piece.grams_in
        return Outcome(
            replace(state, liquid=state.contents, pieces=(), solids_g=summed(state.solids_g, pulp), pulp_g=summed(state.pulp_g, pulp))
        )

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del after
        if before.temperature_c > _BLENDS_BELOW_C and not self.vented:
            yield self.remark(
                "hot_blending",
                "stop",
                message(
                    "Blending at {temperature} °C in a closed jar throws the lid: steam expands.",
                    temperature=Computed(before.temperature_c, decimals=0),
                ),
                message("Let it cool below 45 °C, or vent the lid under a cloth and fill half"),
            )
