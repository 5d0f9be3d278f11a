"""Batch scaling: the factor of a batch from its volume, serves, stock or vessel, and the effect of rounding to the resolution of a scale."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from ..base.answer import json_member
from ..base.figures import FIGURES, MOST_G, VESSEL_ML, quantity
from ..base.messages import Computed, Given, Message, Value, grams, listed, message
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..base.weighing import UNSURE_SHARE
from ..evaluation.evaluate import Evaluation, evaluate
from ..evaluation.flow import flow
from ..evaluation.flow_values import AsMade, Inputs
from ..materials.material import Material
from ..properties.density import volume_ml
from ..spec import spec as s
from ..spec.sentences import material_name, vessel_name

HEAD_ROOM_PERCENT = 10.0
"""Of a vessel, what is usually left empty [%]. House experience."""
STRIDES: Mapping[str, float] = {"volume_ml": 250.0, "serves": 5.0, "have_g": 250.0, "times": 0.5}
"""How far a hand moves a batch at a time, by how it is asked for [mL, count, g, times]. House experience."""
USUAL_HAVE_G = 1000.0
"""What is usually there to start from [g]. House experience."""
_TYPED_FACTOR = (0.001, 1000.0)
"""Least and most factor that is typed: beyond it is a slip. A batch from a weighed mass may be larger, up to `evaluate`'s own bound. House judgement."""
_MOST_ROOM_PERCENT = 90.0
"""Head room [%] that leaves nothing worth a vessel. House judgement."""
_SETTLES_SHARE = 0.02
"""Mass share of insoluble matter from which a dilution settles before it is dosed. House judgement."""
_CAP, _TOLERANCE = 30, 1e-9


def driver_mass_g(spec: s.Spec, materials: Mapping[str, Material]) -> float:
    """Returns the mass of the driving line in the spec [g]. Raises Refusal for a spec without a driving line."""
    if spec.driver is None:
        raise Refusal(
            message("This spec does not say which line sets the batch"),
            "driver",
            remedy=message("Choose the line that is weighed first"),
            code="missing",
        )
    line = spec.lines[spec.driver]
    if not isinstance(line.amount, s.Fixed):
        raise Refusal(
            message("The line that sets the batch needs an amount of its own"),
            f"lines/{line.id}",
            remedy=message("Give it grams"),
            code="missing",
        )
    # The line alone in a pass of its own: a count or a volume becomes a mass by the same rules as in the spec.
    plain = flow(
        Inputs(s.Spec(spec.id, spec.name, spec.family, (s.Combine("only", next(iter(spec.vessels)), (line,)),), spec.vessels), materials)
    )
    if plain.refusal:
        raise plain.refusal
    return plain.masses[line.id]


def _factor_for(
    spec: s.Spec, materials: Mapping[str, Material], wanted: float, of: Callable[[Evaluation], float], what: Value, where: str
) -> float:
    """Returns the factor at which `of` the evaluation is `wanted`, by fixed-point iteration to 1e-9: almost everything is proportional to the factor, steam is
    not.
    """
    factor = 1.0
    for _ in range(_CAP):
        done = evaluate(spec, materials, AsMade(factor))
        if done.flow.refusal:
            raise done.flow.refusal
        makes = of(done)
        # Nothing is made at any factor, so no factor reaches an amount.
        if makes <= 0:
            raise Refusal(message("This spec makes nothing"), "steps", remedy=message("Put something in"))
        if abs(makes - wanted) <= _TOLERANCE * wanted:
            return factor
        # Steam and what clings do not grow with the batch, so one proportion is not enough; the error shrinks each time.
        factor *= wanted / makes
    raise Refusal(message("No batch of this spec gives {amount}", amount=what), where, remedy=message("Start from a weight instead"))


def checked_factor(factor: float) -> float:
    """Returns the factor. Raises Refusal for a factor that no batch can have."""
    if not _TYPED_FACTOR[0] <= factor <= _TYPED_FACTOR[1]:
        raise Refusal(
            message("{factor} times the spec cannot be made", factor=Given(factor)),
            "factor",
            message("from 0.001 to 1 000"),
            message("Choose another factor"),
            "out_of_bounds",
        )
    return factor


def factor_for_mass(spec: s.Spec, materials: Mapping[str, Material], mass_g: float, where: str = "mass_g") -> float:
    """Returns the factor of a batch with `mass_g` [g] of the driving line. Raises Refusal, at `where`, for 0 g or less and for more than a tonne."""
    if not 0 < mass_g <= MOST_G:
        raise Refusal(
            message("{mass} g is not an amount to start from", mass=Given(mass_g)),
            where,
            message("above 0 g and at most a tonne"),
            message("Weigh it again"),
            "not_positive",
        )
    return mass_g / driver_mass_g(spec, materials)


def factor_for_volume(spec: s.Spec, materials: Mapping[str, Material], wanted_ml: float) -> float:
    """Returns the factor of a batch that gives `wanted_ml` [mL] of product, with the steam that it loses. Raises Refusal if no batch gives it."""
    if not VESSEL_ML.low <= wanted_ml <= VESSEL_ML.high:
        raise Refusal(message("A yield of {wanted} mL cannot be made", wanted=Given(wanted_ml)), "volume_ml", VESSEL_ML.words)
    return _factor_for(
        spec, materials, wanted_ml, lambda done: volume_ml(done.final) if done.final else 0.0, Given(wanted_ml, "mL"), "volume_ml"
    )


def factor_for_serves(spec: s.Spec, materials: Mapping[str, Material], serves: float) -> float:
    """Returns the factor of a batch that gives `serves` [count] of the spec's own serve. Raises Refusal if no batch gives them."""
    if not VESSEL_ML.low <= serves * spec.serve_ml <= VESSEL_ML.high:
        raise Refusal(
            message("{serves} serves cannot be made", serves=Given(serves)),
            "serves",
            message("of {serve} mL each, from 1 mL to 1 000 L in all", serve=Given(spec.serve_ml)),
        )
    return factor_for_volume(spec, materials, serves * spec.serve_ml)


@dataclass(frozen=True, slots=True)
class StockLimit:
    """The factor of the largest batch, the material that limits it, and the mass of the other materials that is left over [g]."""

    factor: float
    material: str
    name: str
    left_g: Mapping[str, float]

    @property
    def words(self) -> Message:
        """Text of the limit: the material that runs out first, and the factor."""
        return message("{material} runs out first: {factor} times the spec.", material=self.name, factor=Computed(self.factor, decimals=2))


def factor_for_stock(spec: s.Spec, materials: Mapping[str, Material], have_g: Mapping[str, float]) -> StockLimit:
    """Returns the largest batch from the stock `have_g` [g by material], and the material that limits it.

    Raises Refusal for a material that the spec does not use, and for a mass of 0 g or less.
    """
    used = set(spec.material_keys)
    for key, mass_g in have_g.items():
        if key not in used:
            raise Refusal(
                message("The spec does not use {material}", material=material_name(key, materials).text().lower()),
                f"have_g/{key}",
                message("it uses {used}", used=listed(sorted(used), "comma")),
                message("Name one of them"),
                "unknown_reference",
            )
        if not 0 < mass_g <= MOST_G:
            raise Refusal(
                message("{mass} g are not an amount to start from", mass=Given(mass_g)),
                f"have_g/{key}",
                message("above 0 g and at most a tonne"),
                message("Weigh it again"),
                "not_positive",
            )
    if not have_g:
        raise Refusal(message("Nothing is said of what is there"), "have_g", remedy=message("Weigh one material"), code="missing")

    def factor_for(key: str, mass_g: float) -> float:
        return _factor_for(spec, materials, mass_g, lambda done: done.went_in_g.get(key, 0.0), Given(mass_g, "g"), f"have_g/{key}")

    factors = {key: factor_for(key, mass_g) for key, mass_g in have_g.items()}
    # The material that allows the smallest batch limits them all.
    first = min(factors, key=lambda key: factors[key])
    went_in = evaluate(spec, materials, AsMade(factors[first])).went_in_g
    left = {key: mass_g - went_in.get(key, 0.0) for key, mass_g in have_g.items() if key != first}
    return StockLimit(factors[first], first, materials[first].name, left)


def factor_for_vessel(
    spec: s.Spec, materials: Mapping[str, Material], vessel: str, capacity_ml: float, head_room_percent: float = HEAD_ROOM_PERCENT
) -> float:
    """Returns the factor of the largest batch that a vessel of `capacity_ml` [mL] holds at its fullest step with `head_room_percent` [%] left empty.

    Raises Refusal for a vessel that the spec does not have, and for one that stays empty.
    """
    if vessel not in spec.vessels:
        raise Refusal(
            message("There is no vessel “{vessel}”", vessel=vessel),
            "vessel",
            message("there are {vessels}", vessels=listed(spec.vessels, "comma")),
            message("Name one of them"),
            "unknown_reference",
        )
    if not 0.0 <= head_room_percent < _MOST_ROOM_PERCENT or not VESSEL_ML.low <= capacity_ml <= VESSEL_ML.high:
        raise Refusal(
            message("A vessel holds from 1 mL to 1 000 L, with less than 90 % head room"),
            "capacity_ml",
            message("{capacity} mL and {head_room} % were given", capacity=Given(capacity_ml), head_room=Given(head_room_percent)),
        )

    def fullest(done: Evaluation) -> float:
        volumes = [
            (volume_ml(step.before.liquid) if step.before.liquid.mass_g else 0.0) + step.before.pieces_ml
            for step in done.flow.steps
            if step.step.vessel == vessel
        ]
        return max(volumes, default=0.0)

    # The fullest step decides, which is not always the last: reductions begin fuller than they end.
    fits = capacity_ml * (1.0 - head_room_percent / 100.0)
    return _factor_for(
        spec,
        materials,
        fits,
        fullest,
        message("{volume} mL in the {vessel}", volume=Given(fits), vessel=vessel_name(spec, vessel)),
        "vessel",
    )


_READ_AFTER_ROUNDING = ("brix", "acid_g_100ml", "volume_ml")


@dataclass(frozen=True, slots=True)
class Rounded:
    """Masses rounded to the resolution of a scale [g], their effect on the product, and the lines for which the scale is too coarse, with their pre-dilution."""

    masses_g: Mapping[str, float]
    changes: Mapping[str, float]
    words: Message
    too_coarse: tuple[Message, ...]


def _step_g(material: Material, resolution_g: float, jigger_ml: float | None) -> float:
    """Returns the mass of one step [g]: that of the scale, or of the jigger for a liquid where one is used."""
    return jigger_ml * material.density_g_ml() if jigger_ml is not None and material.pours else resolution_g


def rounded(evaluation: Evaluation, resolution_g: float, jigger_ml: float | None = None) -> Rounded:
    """Returns every line rounded to the nearest step of a scale [g], at least one step, with the effect on °Bx, acid and volume.

    With `jigger_ml` [mL] liquids are rounded to a jigger instead. A line of which one step is more than 2 % needs a finer scale or a ten-fold pre-dilution.
    Raises Refusal for a resolution of 0 or less.
    """
    if not 0.0 < resolution_g <= 1000.0:
        raise Refusal(
            message("A scale does not read to {resolution} g", resolution=Given(resolution_g)),
            "resolution_g",
            message("above 0 and at most 1 000 g"),
        )
    if jigger_ml is not None and not 0.0 < jigger_ml <= 1000.0:
        raise Refusal(
            message("A jigger does not measure to {jigger} mL", jigger=Given(jigger_ml)),
            "jigger_ml",
            message("above 0 and at most 1 000 mL"),
        )
    inputs = evaluation.inputs
    lines = inputs.spec.lines
    exact = {key: mass for key, mass in evaluation.flow.masses.items() if key in lines and not lines[key].own}
    step = {key: _step_g(inputs.materials[lines[key].material], resolution_g, jigger_ml) for key in exact}
    # At least one step of the scale: a line rounded to nothing would be left out of the recipe.
    weighed = {key: max(step[key], round(mass / step[key]) * step[key]) if mass > 0 else 0.0 for key, mass in exact.items()}
    # The whole spec again with the rounded masses: a change in one line moves what targets take in others.
    again = evaluate(inputs.spec, inputs.materials, AsMade(inputs.made.factor, {**inputs.made.actual_g, **weighed}))
    changes: dict[str, float] = {}
    if evaluation.last is not None and again.last is not None:
        before, after = evaluation.figures[evaluation.last], again.figures[again.last]
        changes = {name: after.get(name, 0.0) - before.get(name, 0.0) for name in _READ_AFTER_ROUNDING}
    told = [
        message("{figure} more", figure=quantity(name, change)) if change > 0 else message("{figure} less", figure=quantity(name, -change))
        for name, change in changes.items()
        if abs(change) >= FIGURES[name].least_change
    ]
    steps = [Given(resolution_g, "g"), *([Given(jigger_ml, "mL")] if jigger_ml is not None else [])]
    words = (
        message("Rounded to {steps} it reads {changes}.", steps=listed(steps), changes=listed(told))
        if told
        else message("Rounding to {steps} changes nothing that anybody could read.", steps=listed(steps))
    )
    coarse = tuple(
        _coarse_words(inputs.materials[lines[key].material], mass, resolution_g)
        for key, mass in exact.items()
        if mass > 0 and step[key] == resolution_g and resolution_g / mass > UNSURE_SHARE
    )
    return Rounded(weighed, changes, words, coarse)


def _coarse_words(material: Material, mass: float, resolution_g: float) -> Message:
    """Returns what to do where a scale is too coarse: a ten-fold dilution of a soluble material, a finer scale for anything else."""
    unsure: dict[str, Value] = {
        "material": material.name,
        "mass": grams(mass),
        "resolution": Given(resolution_g),
        "share": Computed(100 * resolution_g / mass, decimals=0),
    }
    # What does not dissolve settles in a dilution, so that no part of it is representative.
    if material.per_gram().of("insolubles") > _SETTLES_SHARE:
        return message("{material}: {mass} on a scale of {resolution} g is {share} % unsure; take a finer scale.", **unsure)
    return message(
        "{material}: {mass} on a scale of {resolution} g is {share} % unsure; thin it ten-fold ({ten_times} in {water} of water) and weigh {ten_times} of that, or take a finer scale.",
        **unsure,
        ten_times=grams(10 * mass),
        water=grams(90 * mass),
    )


@dataclass(frozen=True, slots=True)
class BatchSize:
    """The size of a batch, by exactly one of: volume [mL], serves [count], stock [g by material], capacity of a vessel [mL], or a factor."""

    volume_ml: float | None = None
    serves: float | None = None
    have_g: Mapping[str, float] = field(default_factory=dict)
    vessel: str | None = None
    capacity_ml: float | None = None
    head_room_percent: float = HEAD_ROOM_PERCENT
    resolution_g: float | None = None
    jigger_ml: float | None = None
    factor: float | None = None


@dataclass(frozen=True, slots=True)
class Scaled:
    """A scaled batch: its factor and the mass of each line [g]. If it was scaled to stock, the limiting material and what is left of the others [g]; if a scale
    was named, the effect of rounding.
    """

    factor: float
    masses_g: Mapping[str, float]
    remarks: tuple[Remark, ...]
    material: str | None = field(default=None, metadata=json_member(left_out=True))
    words: Message | None = field(default=None, metadata=json_member(left_out=True))
    left_g: Mapping[str, float] | None = field(default=None, metadata=json_member(left_out=True))
    rounded: Rounded | None = field(default=None, metadata=json_member(left_out=True))


def scaled(spec: s.Spec, materials: Mapping[str, Material], asked: BatchSize) -> Scaled:
    """Returns a spec scaled to a size, with the masses rounded to the resolution of a scale if one is named.

    Raises Refusal for no size or several, and for a size that the spec cannot be scaled to.
    """
    given = {
        "volume_ml": asked.volume_ml,
        "serves": asked.serves,
        "have_g": asked.have_g or None,
        "vessel": asked.vessel,
        "factor": asked.factor,
    }
    wanted = [name for name, value in given.items() if value is not None]
    if len(wanted) != 1:
        raise Refusal(
            message("A batch is scaled to one thing"),
            "scale",
            remedy=message("Give a volume, serves, what is there, a vessel, or a factor"),
            code="missing",
        )
    limit = factor_for_stock(spec, materials, asked.have_g) if asked.have_g else None
    factor = limit.factor if limit is not None else _factor_asked(spec, materials, asked)
    done = evaluate(spec, materials, AsMade(factor))
    if asked.jigger_ml is not None and asked.resolution_g is None:
        raise Refusal(
            message("A jigger measures only what pours"),
            "resolution_g",
            remedy=message("Say what the scale reads to for the rest"),
            code="missing",
        )
    return Scaled(
        factor,
        done.flow.masses,
        done.remarks,
        limit.material if limit is not None else None,
        limit.words if limit is not None else None,
        limit.left_g if limit is not None else None,
        rounded(done, asked.resolution_g, asked.jigger_ml) if asked.resolution_g is not None else None,
    )


def _factor_asked(spec: s.Spec, materials: Mapping[str, Material], asked: BatchSize) -> float:
    if asked.factor is not None:
        return checked_factor(asked.factor)
    if asked.vessel is not None:
        return factor_for_vessel(spec, materials, asked.vessel, asked.capacity_ml or 0.0, asked.head_room_percent)
    if asked.serves is not None:
        return factor_for_serves(spec, materials, asked.serves)
    return factor_for_volume(spec, materials, asked.volume_ml or 0.0)
