"""A panel as a lead plans it: its design, how it is served, and its samples with what is known of them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from ulsek.batches.models import Lot
from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.tasting.serving import CONTENTS, check_contents
from ulsek.core.tasting.stops import check_servable
from ulsek.specs.models import Draft, Spec, Version
from ulsek.specs.queries import evaluated
from ulsek.team.models import House

from .models import PanelSample, Standard

NO_ID = UUID(int=0)
"""The id of no row."""
SampleKind = Literal["lot", "version", "draft", "standard", "bought"]


@dataclass(frozen=True, slots=True)
class WantedSample:
    """A sample as it is asked for: a lot by its code, a version or the draft of a spec, a standard, or a bottle from elsewhere by its label and readings [g/100 mL, % v/v].

    `allergens` of a bottle from elsewhere are None if nobody has looked.
    """

    kind: SampleKind
    lot: str = ""
    spec: UUID | None = None
    version: int | None = None
    standard: UUID | None = None
    name: str = ""
    sugar_g_100ml: float | None = None
    acid_g_100ml: float | None = None
    abv: float | None = None
    allergens: Sequence[str] | None = None


@dataclass
class FoundSample:
    """The columns of a sample's row."""

    name: str
    lot: Lot | None = None
    version: Version | None = None
    spec: Spec | None = None
    standard: Standard | None = None
    contents: Mapping[str, float | None] = field(default_factory=dict)
    allergens: Sequence[str] = ()
    unknown: Sequence[str] = ()
    makers: Sequence[str] = ()


def found_samples(house: House, wanted: Sequence[WantedSample], at: datetime) -> list[FoundSample]:
    """Returns the samples. Raises Refusal, at its place, for what is not in the house, what nobody may taste, and the same one twice."""
    found = [_FIND[item.kind](house, item, f"samples/{n}", at) for n, item in enumerate(wanted)]
    names: set[str] = set()
    for n, item in enumerate(found):
        if item.name in names:
            raise Refusal(
                message("{name} stands there twice", name=item.name),
                f"samples/{n}",
                remedy=message("Taste it against something else: one glass of the same comes by itself where the method asks for it"),
                code="twice",
            )
        names.add(item.name)
    return found


def stored_sample(sample: PanelSample) -> WantedSample:
    """Returns a stored sample as it was asked for."""
    if sample.standard_id is not None:
        return WantedSample("standard", standard=sample.standard_id)
    if sample.lot is not None:
        return WantedSample("lot", lot=sample.lot.code)
    if sample.version is not None:
        return WantedSample("version", spec=sample.version.spec_id, version=sample.version.number)
    if sample.spec is not None:
        return WantedSample("draft", spec=sample.spec_id)
    return WantedSample("bought", name=sample.name, allergens=None if sample.unknown else sample.allergens, **sample.contents)


def _unknown(where: str) -> Refusal:
    return Refusal(message("This house has no such thing"), where, remedy=message("Choose it again"), code="unknown_reference")


def _lot(house: House, wanted: WantedSample, where: str, at: datetime) -> FoundSample:
    lot = Lot.objects.select_related("run__version__withdrawal").filter(house=house, code=wanted.lot).first()
    if lot is None:
        raise _unknown(where)
    name = f"{lot.name}, {lot.code}"
    past = lot.use_by if at >= house.day_ends(lot.use_by) else None
    check_servable(name, recalled=bool(lot.recalled or lot.withdrawn), past=past, gone=lot.gone_at is not None, where=where)
    version = lot.run.version if lot.run else None
    final = lot.final or {}
    unknown = final.get("allergens_unknown", ()) if lot.final else (lot.name,)
    return FoundSample(name, lot, version, None, None, contents_of(final), lot.allergens, unknown, (lot.made_by,))


def contents_of(final: Mapping[str, Any]) -> Mapping[str, float | None]:
    """Returns sugar, acid and strength of a stored result; None for what it does not hold."""
    return {key: final[key]["value"] if key in final else None for key in CONTENTS}


def _version(house: House, wanted: WantedSample, where: str, _at: datetime) -> FoundSample:
    found = Version.objects.select_related("spec", "author", "withdrawal").filter(
        spec=wanted.spec, spec__house=house, number=wanted.version or 0
    )
    version = found.first()
    if version is None:
        raise _unknown(where)
    name = f"{version.spec.name}, version {version.number}"
    check_servable(name, recalled=hasattr(version, "withdrawal"), past=None, gone=False, where=where)
    final = version.final
    unknown = final.get("allergens_unknown", ())
    return FoundSample(
        name, None, version, None, None, contents_of(final), final.get("allergens", ()), unknown, (version.author.display_name,)
    )


def _draft(house: House, wanted: WantedSample, where: str, _at: datetime) -> FoundSample:
    draft = Draft.objects.select_related("spec", "saved_by").filter(spec=wanted.spec, spec__house=house).first()
    if draft is None:
        raise _unknown(where)
    evaluation, _ = evaluated(house, draft.body, own=draft.spec)
    figures = evaluation.figures[evaluation.last] if evaluation.last is not None else {}
    return FoundSample(
        f"{draft.spec.name}, draft",
        None,
        None,
        draft.spec,
        None,
        {key: figures.get(key) for key in CONTENTS},
        evaluation.hazards.allergens,
        evaluation.hazards.unknown,
        (draft.saved_by.display_name,),
    )


def _standard(house: House, wanted: WantedSample, where: str, at: datetime) -> FoundSample:
    standard = (
        Standard.objects.select_related("lot", "version__withdrawal", "made_by").filter(house=house, pk=wanted.standard or NO_ID).first()
    )
    if standard is None:
        raise _unknown(where)
    name = f"{standard.name}, {standard.code}"
    if stop := standard.stopped(house.day(at)):
        raise Refusal(message("{name} cannot be tasted against", name=name), where, stop, message("Take another, or none"), "gone")
    final = (standard.lot.final if standard.lot is not None else None) or standard.version.final
    makers = {standard.lot.made_by if standard.lot is not None else standard.made_by.display_name}
    return FoundSample(
        name,
        None,
        standard.version,
        None,
        standard,
        standard.contents,
        final.get("allergens", ()),
        final.get("allergens_unknown", ()),
        tuple(makers),
    )


def _bought(_house: House, wanted: WantedSample, where: str, _at: datetime) -> FoundSample:
    name = free_text(wanted.name, f"{where}/name", 100, message("The bottle needs a name"), message("Write what its label says"))
    contents = {"sugar_g_100ml": wanted.sugar_g_100ml, "acid_g_100ml": wanted.acid_g_100ml, "abv": wanted.abv}
    check_contents(contents, where)
    looked = wanted.allergens is not None
    allergens = [free_text(item, f"{where}/allergens", 60) for item in wanted.allergens or ()]
    return FoundSample(name, None, None, None, None, contents, allergens, () if looked else (name,), ())


_FIND = {"lot": _lot, "version": _version, "draft": _draft, "standard": _standard, "bought": _bought}
