"""The result of an evaluation, as files, screens and the command line get it."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal

from ..base.answer import fields_of, json_member
from ..base.messages import Message, message
from ..base.ranges import Range
from ..base.refusals import Refusal, Refused
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..chemistry.substances import ACIDS, SUGARS, Band
from ..evaluation.colour import ExpectedColour
from ..evaluation.evaluate import Evaluation, Narrowing
from ..evaluation.flow_values import StepFlow
from ..evaluation.leftovers import Leftover
from ..materials.vessel_state import OutgoingStream
from ..properties.acidity import ByAcid, acids_g_100ml
from ..properties.bounds import is_solution
from ..properties.density import volume_at_ml
from ..properties.measure import LABEL
from ..properties.solubility import crystals
from ..properties.sugar import sugars_g_100ml
from ..safety.barriers import Evidence
from ..safety.hazards import Restricted, bottle_words
from ..safety.longer_shelf_life import WayToKeepLonger, ways_to_keep_longer
from ..safety.shelf_life import HouseDate, Keeping

_DOUBTED = ("brix", "acid_g_100ml", "volume_ml")
"""Figures of the product that are told with the inputs that their doubt comes from."""


@dataclass(frozen=True, slots=True)
class Bands:
    """Mass of each group of substances [g]."""

    sugar: float
    acid: float
    solids: float
    spirit: float
    water: float

    @classmethod
    def of(cls, contents: Contents) -> Bands:
        return cls(**contents.bands())


@dataclass(frozen=True, slots=True)
class LineMass:
    """A line as it went into a step: its mass [g], and that by groups of substances."""

    line: str
    material: str
    mass_g: Range
    bands: Bands


@dataclass(frozen=True, slots=True)
class Stream:
    """What left a vessel in a step [g]: a by-product if it is `kept`, else a loss."""

    name: str
    kind: str
    kept: bool
    mass_g: float
    bands: Bands

    @classmethod
    def of(cls, outgoing: OutgoingStream) -> Stream:
        return cls(outgoing.name, outgoing.kind, outgoing.kept, outgoing.contents.mass_g, Bands.of(outgoing.contents))


@dataclass(frozen=True, slots=True)
class ByProduct(Stream):
    """A stream that is kept, and how much of it no later step took [g]."""

    left_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class VesselFigures:
    """The figures of a vessel. One without liquid has mass and volume only."""

    mass_g: Range
    volume_ml: Range
    density_g_ml: Range | None = field(default=None, metadata=json_member(left_out=True))
    brix: Range | None = field(default=None, metadata=json_member(left_out=True))
    brix_reading: Range | None = field(default=None, metadata=json_member(left_out=True))
    sugar_g_100ml: Range | None = field(default=None, metadata=json_member(left_out=True))
    acid_g_100ml: Range | None = field(default=None, metadata=json_member(left_out=True))
    abv: Range | None = field(default=None, metadata=json_member(left_out=True))


@dataclass(frozen=True, slots=True, kw_only=True)
class ProductFigures:
    """The figures of a finished product, with those that need a search; each of these is missing where it cannot be computed."""

    mass_g: Range
    volume_ml: Range
    density_g_ml: Range
    brix: Range
    brix_reading: Range
    sugar_g_100ml: Range
    acid_g_100ml: Range
    abv: Range
    ph: Range | None = field(default=None, metadata=json_member(left_out=True))
    water_activity: Range | None = field(default=None, metadata=json_member(left_out=True))
    freezing_c: Range | None = field(default=None, metadata=json_member(left_out=True))


@dataclass(frozen=True, slots=True, kw_only=True)
class StepResult(VesselFigures):
    """A vessel after a step: when the step begins and ends [min since the start], its figures, its content before the lines, what went in and what left."""

    id: str
    vessel: str
    begins_min: float
    ends_min: float
    hands_on_min: float
    waiting_min: float
    people: int
    gear: tuple[str, ...]
    check: str
    continues: bool
    bands_before: Bands = field(metadata=json_member(name="stood"))
    temperature_c: float
    bands: Bands
    added: tuple[LineMass, ...]
    leaving: tuple[Stream, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DeepFigures:
    """The figures of a vessel that are computed on request; each is missing where it cannot be computed."""

    ph: Range | None = field(default=None, metadata=json_member(left_out=True))
    water_activity: Range | None = field(default=None, metadata=json_member(left_out=True))
    freezing_c: Range | None = field(default=None, metadata=json_member(left_out=True))
    boiling_c: Range | None = field(default=None, metadata=json_member(left_out=True))
    viscosity_mpa_s: Range | None = field(default=None, metadata=json_member(left_out=True))
    sweetness_g_100ml: Range | None = field(default=None, metadata=json_member(left_out=True))
    acid_g_100g: Range | None = field(default=None, metadata=json_member(left_out=True))
    abw: Range | None = field(default=None, metadata=json_member(left_out=True))
    carbonation_g_l: Range | None = field(default=None, metadata=json_member(left_out=True))


@dataclass(frozen=True, slots=True, kw_only=True)
class SolutionFigures(DeepFigures):
    """The same of a solution, with what needs several numbers: each sugar and each acid [g/100 mL], the volume [mL] at a temperature [°C], and what may
    crystallise at the temperature of the vessel [g]; None if no solubility is known.
    """

    sugars_g_100ml: Mapping[str, float]
    acids_g_100ml: Mapping[str, ByAcid]
    volume_hot_ml: float
    volume_hot_at_c: float
    crystals_g: Mapping[str, float] | None


@dataclass(frozen=True, slots=True, kw_only=True)
class DeepStepResult(StepResult):
    """A vessel after a step with every figure; `properties` are SolutionFigures where it holds a solution."""

    properties: DeepFigures


@dataclass(frozen=True, slots=True)
class Share:
    """An input, and its share of a figure's variance (0 to 1)."""

    name: Message
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class FinalResult(ProductFigures):
    """The product: its figures, its substances [g], how long it takes [min], how many serves it makes, how long it keeps, what it costs, its allergens and
    cautions, and the causes of its uncertainty.
    """

    bands: Bands
    colour: ExpectedColour | None = field(metadata=json_member(stored=None))
    sugars_g: Mapping[str, float] = field(metadata=json_member(stored={}))
    acids_g: Mapping[str, float] = field(metadata=json_member(stored={}))
    doses_g_l: Mapping[str, float]
    takes_min: float = field(metadata=json_member(stored=0.0))
    serves: float
    keeps_days: int
    keeping: Keeping
    cost: Decimal
    cost_per_litre: Decimal
    cost_left: Decimal = field(metadata=json_member(stored=Decimal(0)))
    unpriced: tuple[str, ...]
    allergens: tuple[str, ...]
    cautions: tuple[str, ...]
    free_from: tuple[str, ...]
    allergens_unknown: tuple[str, ...] = field(metadata=json_member(stored=()))
    allergens_words: Message = field(metadata=json_member(stored=""))
    restricted: tuple[Restricted, ...] = field(metadata=json_member(stored=None))
    shares: Mapping[str, tuple[Share, ...]]
    narrowing: tuple[Narrowing, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class EvaluationResult:
    """Everything that was computed of a spec. Steps after a refusal are missing; the refusal is among `refusals`."""

    steps: tuple[StepResult, ...]
    final: FinalResult | None
    by_products: tuple[ByProduct, ...]
    leftovers: tuple[Leftover, ...] = field(metadata=json_member(stored=()))
    losses: tuple[Stream, ...]
    remarks: tuple[Remark, ...]
    refusals: tuple[Refused, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DeepResult(EvaluationResult):
    """The same with every figure of every vessel, and what would make the product keep longer."""

    steps: tuple[DeepStepResult, ...]
    keeps_longer: tuple[WayToKeepLonger, ...] | None = field(default=None, metadata=json_member(left_out=True))


@dataclass(frozen=True, slots=True)
class KeepingResult:
    """How long a product keeps, and what would make it keep longer."""

    keeping: Keeping
    keeps_longer: tuple[WayToKeepLonger, ...]


_VOLUME_TO_C, _VOLUME_TO_C_SPIRIT, _CRYSTALS_TO_C = 80.0, 40.0, 50.0
"""Temperatures [°C] to which the tables of volume, of volume with alcohol, and of solubility reach."""


def _bands_before(done: StepFlow, went_in: Sequence[Mapping[Band, float]]) -> Bands:
    """Returns the mass by group [g] in the step's vessel before its lines went in; `went_in` is the mass of each line by group [g]."""
    # The vessel with its lines in, less the lines: what stood there before.
    bands = done.before.contents.bands()
    for added, by_band in zip(done.added, went_in, strict=True):
        if not added.by_itself:
            for band, grams in by_band.items():
                bands[band] = max(0.0, bands[band] - grams)
    return Bands(**bands)


def _deep_figures(evaluation: Evaluation, i: int, ranges: bool) -> DeepFigures:
    done = evaluation.flow.steps[i]
    liquid, t_c = done.state.liquid, done.temperature_c
    figures = evaluation.deep(i, ranges=ranges)
    if not is_solution(liquid):
        return DeepFigures(**figures)
    hottest = _VOLUME_TO_C_SPIRIT if liquid.of("ethanol") else _VOLUME_TO_C
    # Above the range of the density tables the volume at 20 °C is given, with its temperature.
    at_c = t_c if 0.0 <= t_c <= hottest else 20.0
    return SolutionFigures(
        **figures,
        sugars_g_100ml=sugars_g_100ml(liquid),
        acids_g_100ml=acids_g_100ml(liquid),
        volume_hot_ml=volume_at_ml(liquid, at_c),
        volume_hot_at_c=at_c,
        crystals_g={found.substance: found.mass_g for found in crystals(liquid, t_c)} if 0.0 <= t_c <= _CRYSTALS_TO_C else None,
    )


def _figure(evaluation: Evaluation, step: int, name: str, ranges: bool) -> Range:
    value = evaluation.figures[step][name]
    # A substance that is absent has no range.
    return evaluation.range(step, name) if ranges and (value or name in ("brix_reading", "acid_g_100ml")) else Range.exact(value)


def _step(evaluation: Evaluation, i: int, ranges: bool, ranged: Collection[str] | None, deep: bool) -> StepResult:
    done = evaluation.flow.steps[i]
    figures = {name: _figure(evaluation, i, name, ranges and (ranged is None or name in ranged)) for name in evaluation.figures[i]}
    went_in = [added.contents.bands() for added in done.added]
    plain = StepResult(
        **figures,
        id=done.step.id,
        vessel=done.vessel,
        begins_min=done.begins_min,
        ends_min=done.ends_min,
        hands_on_min=done.step.labour_min,
        waiting_min=done.step.waiting_min,
        people=done.step.people,
        gear=tuple(done.step.gear or done.step.usual_gear),
        check=done.step.check or done.step.usual_check,
        continues=i > 0 and evaluation.flow.steps[i - 1].vessel == done.step.vessel,
        bands_before=_bands_before(done, went_in),
        temperature_c=done.temperature_c,
        bands=Bands.of(done.contents),
        added=tuple(
            LineMass(
                added.line,
                added.material,
                evaluation.line_range(i, position) if ranges else Range.exact(added.mass_g),
                Bands(**went_in[position]),
            )
            for position, added in enumerate(done.added)
        ),
        leaving=tuple(map(Stream.of, done.outgoing)),
    )
    return DeepStepResult(**fields_of(plain), properties=_deep_figures(evaluation, i, ranges)) if deep else plain


def _final(evaluation: Evaluation, ranges: bool) -> FinalResult | None:
    last, final = evaluation.last, evaluation.final
    if last is None or final is None:
        return None
    figures = {name: _figure(evaluation, last, name, ranges) for name in evaluation.figures[last]}
    shares = {name: evaluation.slopes(last, name).shares(evaluation.estimate) for name in _DOUBTED} if ranges else {}
    narrowing = [evaluation.narrowing(name) for name in ("brix", "acid_g_100ml")] if ranges else []
    hazards, cost = evaluation.hazards, evaluation.cost
    return FinalResult(
        **figures,
        **evaluation.deep(last, LABEL, ranges=ranges),
        bands=Bands.of(evaluation.flow.steps[last].contents),
        colour=evaluation.colour,
        sugars_g={key: final.of(key) for key in SUGARS if final.of(key)},
        acids_g={key: final.of(key) for key in ACIDS if final.of(key)},
        doses_g_l=evaluation.doses_g_l,
        takes_min=max(done.ends_min for done in evaluation.flow.steps),
        serves=figures["volume_ml"].value / evaluation.inputs.spec.serve_ml,
        keeps_days=evaluation.keeping.days,
        keeping=evaluation.keeping,
        cost=cost.batch,
        cost_per_litre=cost.per_litre,
        cost_left=cost.left,
        unpriced=cost.unpriced,
        allergens=hazards.allergens,
        cautions=hazards.cautions,
        free_from=hazards.free_from,
        allergens_unknown=hazards.unknown,
        allergens_words=bottle_words(hazards.allergens, hazards.unknown),
        restricted=hazards.restricted,
        shares={
            name: tuple(Share(evaluation.group_name(group), share) for group, share in parts.items()) for name, parts in shares.items()
        },
        narrowing=tuple(found for found in narrowing if found),
    )


def keeping_result(evaluation: Evaluation, evidence: Evidence, said: HouseDate | None = None) -> KeepingResult:
    """Returns how long the product keeps with this evidence, and what would make it keep longer. Raises Refusal for a spec that makes nothing."""
    if evaluation.final is None or not evaluation.final.of("water"):
        raise Refusal(
            message("Nothing is made that keeping is known of"),
            "steps",
            remedy=message("Add a step and put something in"),
            code="nothing_made",
        )
    return KeepingResult(evaluation.kept(evidence, said), ways_to_keep_longer(evaluation.final, evaluation.rules.keeping))


def _by_product(evaluation: Evaluation, stream: Stream) -> ByProduct:
    left = evaluation.flow.streams.get(stream.name)
    return ByProduct(stream.name, stream.kind, stream.kept, stream.mass_g, stream.bands, stream.mass_g if left is None else left.mass_g)


def plain_steps(evaluation: Evaluation) -> tuple[StepResult, ...]:
    """Returns every step of an evaluation with exact figures, which takes a fraction of the time of their ranges."""
    return tuple(_step(evaluation, i, ranges=False, ranged=None, deep=False) for i in range(len(evaluation.flow.steps)))


def evaluation_result(
    evaluation: Evaluation,
    *,
    ranges: bool = True,
    deep: bool = False,
    ranged: Collection[str] | None = None,
    before: Sequence[StepResult] = (),
) -> EvaluationResult:
    """Returns the result of an evaluation: a DeepResult if `deep`.

    Without `ranges` every figure is exact; `ranged` names the figures that have a range at every step, where not all of them do. `before` are the steps of the
    result of the evaluation's base, of which those are taken that the edit left as they were.
    """
    kept = before[: evaluation.kept_steps] if before else ()
    steps = [*kept, *(_step(evaluation, i, ranges, ranged, deep) for i in range(len(kept), len(evaluation.flow.steps)))]
    outgoing = [stream for step in steps for stream in step.leaving]
    faults = [*evaluation.inputs.spec.faults, *([evaluation.flow.refusal] if evaluation.flow.refusal else [])]
    final = evaluation.final
    keeps_longer = ways_to_keep_longer(final, evaluation.rules.keeping) if deep and final and final.of("water") else None
    plain = EvaluationResult(
        steps=tuple(steps),
        final=_final(evaluation, ranges),
        by_products=tuple(_by_product(evaluation, stream) for stream in outgoing if stream.kept),
        leftovers=evaluation.leftovers,
        losses=tuple(stream for stream in outgoing if not stream.kept),
        remarks=(*evaluation.remarks, *(evaluation.end_remarks if ranges else ())),
        refusals=tuple(fault.answer for fault in faults),
    )
    return DeepResult(**fields_of(plain), keeps_longer=keeps_longer) if deep else plain
