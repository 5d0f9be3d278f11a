"""Facts of a prep for planning: its hands-on times, when it is ready, how long it keeps, its bottle, its largest batch and what it is made of."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..advice.batch_scaling import HEAD_ROOM_PERCENT
from ..base.messages import message
from ..base.refusals import Refusal
from ..evaluation.evaluate import Evaluation
from ..operations.finish import Bottle, HotFill
from ..properties.density import volume_ml
from ..run.available_from import HOT_MIN
from .house_experience import figure
from .prep_leftovers import PrepLeftover, prep_leftovers


@dataclass(frozen=True, slots=True)
class HandsOn:
    """A period of hands-on work of a batch: it is due `wait_min` [min] after the end of the period before it (after the start for the first), and takes `minutes` [min]."""

    wait_min: float
    minutes: float


@dataclass(frozen=True, slots=True)
class PrepFacts:
    """What a schedule needs to know of a prep.

    `ready_wait_min`: from the last hands-on time until it may be poured. `counts_from_min`: from the start until its keeping counts, `keeps_days` with that day as
    the first. `bottle_ml` is the size of its bottle and `fill_ml` what goes into one; both are the batch of the spec if it is not bottled. `fits_ml` is the most
    product that a batch makes without overfilling a vessel. `needs` [g per mL of product] by material key. `density_g_ml` of the product. `leftovers` are what other preps could use.
    """

    key: str
    name: str
    hands: tuple[HandsOn, ...]
    ready_wait_min: float
    counts_from_min: float
    keeps_days: int
    bottle_ml: float
    fill_ml: float
    fits_ml: float
    density_g_ml: float
    needs: Mapping[str, float] = field(default_factory=dict)
    fits_vessel: str = ""
    turns_before_ready: bool = False
    leftovers: tuple[PrepLeftover, ...] = ()

    @property
    def takes_min(self) -> float:
        """Minutes from the start until it may be poured, without any delay [min]."""
        return sum(part.wait_min + part.minutes for part in self.hands) + self.ready_wait_min

    @property
    def hands_min(self) -> float:
        """Hands-on minutes [min]."""
        return sum(part.minutes for part in self.hands)

    @property
    def lasts_days(self) -> int:
        """Days on which it can be served [d]: the days that it keeps, less those that have passed when it is ready; at least 1."""
        return max(1, self.keeps_days - int(max(0.0, self.takes_min - self.counts_from_min) // 1440.0))

    @property
    def most_bottles(self) -> int:
        """Most bottles of one batch [count]; 0 if not even one fits."""
        return int(self.fits_ml / self.fill_ml + 1e-9)

    def check_bottles(self, bottles: int) -> None:
        """Raises Refusal, at `bottles`, for a batch of more bottles [count] than fit its vessel."""
        if bottles > self.most_bottles:
            raise Refusal(
                message("{n} bottles of {name} are more than one batch", n=bottles, name=self.name),
                "bottles",
                message("at most {most} fit {vessel}", most=self.most_bottles, vessel=self.fits_vessel or message("its vessel")),
                message("Make a second batch after it"),
                "out_of_bounds",
            )


def _hands(evaluation: Evaluation) -> tuple[tuple[HandsOn, ...], float]:
    """Returns (periods of hands-on work, wait after the last one [min]). Periods that overlap in two vessels are put one after the other, since one person does both."""
    joined = figure("joined_hands_min")
    found: list[list[float]] = []
    for done in sorted(evaluation.flow.steps, key=lambda step: step.begins_min):
        begins, ends = done.begins_min, done.ends_min - done.step.waiting_min
        if ends <= begins:
            continue
        if found and begins - found[-1][1] < joined:
            found[-1][1] = max(begins, found[-1][1]) + (ends - begins)
        else:
            found.append([begins, ends])
    end = max((done.ends_min for done in evaluation.flow.steps), default=0.0)
    hot = [done.ends_min + HOT_MIN for done in evaluation.flow.steps if isinstance(done.step, HotFill)]
    if not found:
        return (), max([end, *hot])
    parts = [HandsOn(begins - (found[n - 1][1] if n else 0.0), ends - begins) for n, (begins, ends) in enumerate(found)]
    return tuple(parts), max(0.0, max([end, *hot]) - found[-1][1])


def _fits(evaluation: Evaluation, makes_ml: float) -> tuple[float, str]:
    """Returns (most product of one batch [mL], the name of the vessel that limits it). Without the size of any vessel: a multiple of the spec by house experience.

    Error: everything is taken as proportional to the batch; steam is not, which makes the result a little small for reductions.
    """
    best, limits = makes_ml * figure("most_times_spec"), ""
    known = False
    for key, vessel in evaluation.inputs.spec.vessels.items():
        if vessel.capacity_ml is None:
            continue
        volumes = [
            (volume_ml(done.before.liquid) if done.before.liquid.mass_g else 0.0) + done.before.pieces_ml
            for done in evaluation.flow.steps
            if done.step.vessel == key
        ]
        fullest = max(volumes, default=0.0)
        if fullest <= 0.0:
            continue
        room = vessel.fill_line_ml if vessel.fill_line_ml is not None else vessel.capacity_ml * (1.0 - HEAD_ROOM_PERCENT / 100.0)
        product = makes_ml * room / fullest
        if not known or product < best:
            best, limits, known = product, vessel.name, True
    return best, limits


def prep_facts(evaluation: Evaluation, key: str) -> PrepFacts | None:
    """Returns the facts of an evaluated spec as it is made once, under its material `key`; None if it makes nothing that pours.

    Source: the spec's own times and vessels, and the keeping rules that it was evaluated with.
    """
    if evaluation.flow.refusal is not None or evaluation.final is None or not evaluation.flow.steps:
        return None
    makes = volume_ml(evaluation.final)
    if makes <= 0.0:
        return None
    bottle = next((done.step for done in reversed(evaluation.flow.steps) if isinstance(done.step, Bottle)), None)
    size = bottle.bottle_ml if bottle is not None else makes
    fill = size * (1.0 - bottle.head_room_percent / 100.0) if bottle is not None else makes
    hands, rest = _hands(evaluation)
    fits, vessel = _fits(evaluation, makes)
    needs: dict[str, float] = {}
    for done in evaluation.flow.steps:
        for added in done.added:
            if not added.own and added.mass_g > 0.0:
                needs[added.material] = needs.get(added.material, 0.0) + added.mass_g / makes
    keeping, danger_c = evaluation.keeping, evaluation.rules.keeping["warm"]["below_c"]
    return PrepFacts(
        key, evaluation.inputs.spec.name, hands, rest, evaluation.history.counted_from_min(danger_c), keeping.days, size, fill, fits,
        evaluation.final.mass_g / makes, needs, vessel, keeping.expires_before_ready, prep_leftovers(evaluation, key, makes),
    )  # fmt: skip
