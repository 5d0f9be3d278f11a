"""Supplies: which delivery or lot a line is taken from, and what went in by mistake."""

from __future__ import annotations

from dataclasses import dataclass

from ...base.messages import NOTHING, grams, listed, message, sentences, short_name, term
from ...base.refusals import Refusal
from ...materials.supply import key_from, material_of_key
from ...spec.sentences import inside_name
from ..batch_record import BatchRecord, Poured
from ..event_parts import Supply, Text, required
from ..spec_as_made import in_its_place
from .amounts import mass
from .event import Event

_SUPPLY = Supply(about="`delivery:` with its id, or `lot:` with its code")


def _take_from(record: BatchRecord, line_id: str, supply: str) -> None:
    """Takes the line from the supply. If the composition of the supply was not pinned, the material's counts."""
    key = key_from(record.line(line_id).material, supply)
    record.spec = in_its_place(record.spec, line_id, key if key in record.materials else material_of_key(key))
    record.supplies[line_id] = supply


@dataclass(frozen=True, slots=True, kw_only=True)
class TakenFrom(Event):
    """The line is taken from the supply: it counts with that supply's own composition, and what is weighed leaves its stock.

    If its composition is not known (to a tablet that was offline since before the delivery came), the material's counts.
    """

    kind = "taken_from"
    moves_supplies = True

    line: str = required(Text(about="the line"))
    supply: str = required(_SUPPLY)

    def apply(self, record: BatchRecord) -> None:
        _take_from(record, self.line, self.supply)


@dataclass(frozen=True, slots=True, kw_only=True)
class WentOn(Event):
    """A supply ran empty while it was poured: `mass_g` came from the supply before, the rest comes from this one. Once weighed, the line counts with
    the composition of the blend, and each supply's stock falls by its own part.
    """

    kind = "went_on"
    moves_supplies = True

    line: str = required(Text(about="the line"))
    mass_g: float = required(mass("mass in of the line by then [g]"))
    supply: str = required(_SUPPLY)

    def apply(self, record: BatchRecord) -> None:
        before, so_far = record.line(self.line), self.mass_g
        _take_from(record, self.line, self.supply)
        poured = record.poured.setdefault(self.line, [])
        # What is in a vessel does not become less: the greater figure must be true.
        if poured and so_far < poured[-1].so_far_g:
            record.conflicts.append(
                message(
                    "{material}: {mass} were in after {greater}. The greater one counts; take the other back.",
                    material=record.name(before),
                    mass=grams(so_far),
                    greater=grams(poured[-1].so_far_g),
                )
            )
            so_far = poured[-1].so_far_g
        poured.append(Poured(before.material, so_far))


@dataclass(frozen=True, slots=True, kw_only=True)
class WrongJar(Event):
    """Another material went into the line; everything is computed with it, and allergens that it brings are named."""

    kind = "wrong_jar"
    moves_supplies = True

    line: str = required(Text(about="the line"))
    material: str = required(Text(about="key of the material that went in"))

    def brings(self) -> frozenset[str]:
        return frozenset({self.material})

    def apply(self, record: BatchRecord) -> None:
        line = record.line(self.line)
        if self.material not in record.materials:
            raise Refusal(
                message("Nothing is known about “{material}”", material=self.material),
                "body/material",
                remedy=message("Describe it in Stores, then say it again"),
                code="unknown_reference",
            )
        meant, real = record.materials.get(line.material), record.materials[self.material]
        went_in = message(
            "{material:capital} went in instead of {meant}; everything is worked out with it.",
            material=short_name(real.name),
            meant=inside_name(line.material, record.materials),
        )
        new = sorted(set(real.allergens) - set(meant.allergens if meant else ()))
        label = message("It brings {allergens}: the label must say so, or throw the batch away.", allergens=listed(map(term, new)))
        record.poured.pop(self.line, None)
        record.spec = in_its_place(record.spec, self.line, self.material)
        record.notes.append(sentences(went_in, label if new else NOTHING))
