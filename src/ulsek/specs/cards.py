"""The card of a version, at a batch size, with its state today."""

from __future__ import annotations

from dataclasses import dataclass, replace

from django.conf import settings

from ulsek.core.advice.batch_scaling import BatchSize, checked_factor, factor_for_mass, scaled
from ulsek.core.base.answer import fields_of
from ulsek.core.base.catalogue import languages
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.register import scale_of
from ulsek.core.evaluation.evaluate import Evaluation
from ulsek.core.results.spec_card import SecondMeasure, card
from ulsek.core.spec.sentences import material_name
from ulsek.team.register import equipment_of

from .library_schemas import CardOut, ChoiceGroup, ChoiceOut
from .models import Version
from .queries import version_evaluated


@dataclass(frozen=True)
class CardAsked:
    """How a card is wanted: its language and scale (None: the house's own), the size of the batch (at most one of four), the second measure, the alternatives."""

    language: str | None = None
    volume_ml: float | None = None
    serves: float | None = None
    have_g: float | None = None
    times: float | None = None
    resolution_g: float | None = None
    beside: SecondMeasure = "nothing"
    chosen: str = ""


def chosen_of(text: str) -> dict[str, str]:
    """Returns the mapping of a text such as "spice=late,fruit=fresh". Raises Refusal for any other text."""
    found = dict(part.partition("=")[::2] for part in text.split(",") if part)
    if not all(found.values()):
        raise Refusal(
            message("“{text}” chooses nothing", text=text), "chosen", remedy=message("Write it as group=choice"), code="unreadable"
        )
    return found


def _factor(version: Version, asked: CardAsked, chosen: dict[str, str]) -> float:
    wanted = [value for value in (asked.volume_ml, asked.serves, asked.have_g, asked.times) if value is not None]
    if len(wanted) > 1:
        raise Refusal(
            message("A batch is scaled to one thing"),
            "volume_ml",
            remedy=message("Choose a yield, serves, what is there, or a factor"),
            code="twice",
        )
    if not wanted:
        return 1.0
    if asked.times is not None:
        return checked_factor(asked.times)
    plain = version_evaluated(version, chosen=chosen).inputs
    if asked.have_g is not None:
        return factor_for_mass(plain.spec, plain.materials, asked.have_g, "have_g")
    return scaled(plain.spec, plain.materials, BatchSize(volume_ml=asked.volume_ml, serves=asked.serves)).factor


def address_of(version: Version) -> str:
    """Returns the address in the code on a card: the spec's card, which shows the newest version or the withdrawal and its successor."""
    return f"{settings.BASE_ADDRESS}/specs/{version.spec_id}/card?from={version.number}"


def _driver_name(evaluation: Evaluation) -> str:
    """Returns the name of the material that sets the batch; empty if no line does."""
    spec = evaluation.inputs.spec
    line = spec.lines.get(spec.driver) if spec.driver else None
    return material_name(line.material, evaluation.inputs.materials).text() if line is not None else ""


def card_of(version: Version, asked: CardAsked) -> CardOut:
    """Returns the card of a version with its state: its author, whether it is the newest, whether it is withdrawn and by what it is replaced."""
    chosen = chosen_of(asked.chosen)
    evaluation = version_evaluated(version, _factor(version, asked, chosen), chosen)
    house = version.spec.house
    at = equipment_of(house)
    if asked.resolution_g is not None:
        at = replace(at, scales_g=scale_of(asked.resolution_g).scales_g)
    made = card(evaluation, asked.language or house.language, at=at, beside=asked.beside)
    withdrawal = getattr(version, "withdrawal", None)
    figures = evaluation.figures[evaluation.last] if evaluation.last is not None else {}
    return CardOut(
        **fields_of(made),
        number=version.number,
        why=version.why,
        author=version.author.display_name,
        at=version.at,
        newest=version.spec.newest.number if version.spec.newest else version.number,
        withdrawn=withdrawal.why if withdrawal else "",
        successor=withdrawal.successor.number if withdrawal and withdrawal.successor else None,
        address=address_of(version),
        volume_ml=figures.get("volume_ml", 0.0),
        serves=figures.get("volume_ml", 0.0) / evaluation.inputs.spec.serve_ml,
        languages=languages(),
        choices=tuple(
            ChoiceGroup(
                id=group.id,
                name=group.name,
                chosen=group.chosen,
                choices=tuple(ChoiceOut(id=item.id, name=item.name, note=item.note) for item in group.choices),
            )
            for group in evaluation.inputs.spec.options
        ),
        driver=_driver_name(evaluation),
    )
