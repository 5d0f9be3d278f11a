"""Allergens of a drink: of every prep below it, over shared equipment, and of materials of which they are unknown.

A bottle alone is never called free of allergens: the answer is about the drink.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from ..base.answer import in_answer
from ..base.messages import NOTHING, Message, listed, message, sentences, term, verbatim
from ..evaluation.evaluate import Evaluation
from ..materials.supply import material_of_key
from .allergen_carryover import CarryOver, LeftOnGear, carry_overs

ASK = message("Ask the lead.")
_DEEPEST = 8


@dataclass(frozen=True, slots=True)
class AllergenSource:
    """An allergen, and each way by which it comes in: the names from the drink's own ingredient down to what holds it."""

    allergen: str
    through: tuple[tuple[str, ...], ...]

    @property
    def words(self) -> Message:
        """Returns the allergen with the materials that bring it: "nuts (Hazelnut purée, from Hazelnuts)"."""
        return message("{allergen} ({ways})", allergen=term(self.allergen), ways=listed(map(_way, self.through)))


def _way(names: Sequence[str]) -> Message:
    """Returns the text of one way: "Hazelnut purée, from Hazelnuts"."""
    name, *below = names
    return message("{name}, from {below}", name=name, below=_way(below)) if below else verbatim(name)


@dataclass(frozen=True, slots=True)
class AllergenAnswer:
    """The answer for a guest: what it contains, what equipment shares with it, and what is unknown."""

    name: str
    is_drink: bool
    contains: tuple[AllergenSource, ...]
    shared: tuple[CarryOver, ...]
    unknown: tuple[str, ...]

    @property
    @in_answer()
    def asks_lead(self) -> bool:
        """True if the answer refers to the lead: something is unknown, or equipment is shared."""
        return bool(self.unknown or self.shared) or not self.is_drink

    @property
    @in_answer()
    def words(self) -> Message:
        """The answer in sentences. It never says “no allergens”."""
        held = message("It holds {allergens}.", allergens=listed(item.words for item in self.contains))
        none = message("None of the listed allergens goes into it as it is written.")
        shared = message("It shares {gear}: clean them before.", gear=listed(self._shares())) if self.shared else NOTHING
        unknown = message("Nobody has said what {names} holds.", names=listed(self.unknown)) if self.unknown else NOTHING
        no_drink = NOTHING if self.is_drink else message("This is no drink: answer for the drink that it goes into.")
        return sentences(held if self.contains else none, shared, unknown, no_drink, ASK if self.asks_lead else NOTHING)

    def _shares(self) -> Iterator[Message]:
        """Yields equipment with the same allergens, named together: “the tall jug and the funnel with what holds egg and nuts”."""
        held: dict[str, dict[str, None]] = {}
        for item in self.shared:
            held.setdefault(item.gear, {})[item.allergen] = None
        alike: dict[tuple[str, ...], list[Message]] = {}
        for gear, allergens in held.items():
            alike.setdefault(tuple(sorted(allergens)), []).append(message("the {gear}", gear=term(gear)))
        for shared, gears in alike.items():
            yield message("{gear} with what holds {allergens}", gear=listed(gears), allergens=listed(map(term, shared)))


def _ways(evaluation: Evaluation, allergen: str, preps: Mapping[str, Evaluation], depth: int = 0) -> Iterator[tuple[str, ...]]:
    """Yields every way by which an allergen comes into a spec, down through its preps."""
    for material in evaluation.used:
        if allergen not in material.allergens:
            continue
        inner = preps.get(material_of_key(material.key))
        # The way down to what holds it, so that a guest's question can be answered by name.
        below = list(_ways(inner, allergen, preps, depth + 1)) if inner is not None and depth < _DEEPEST else []
        yield from ((material.name, *way) for way in below or [()])


def allergen_answer(evaluation: Evaluation, preps: Mapping[str, Evaluation], others: Sequence[LeftOnGear]) -> AllergenAnswer:
    """Returns the allergens of a drink; of a prep with a reference to the drink.

    `preps` are the specs below it by the key of what they make, `others` what the house's other specs leave on its equipment. Source: the data of each
    material; general allergen management, as prudence.
    """
    hazards = evaluation.hazards
    contains = tuple(AllergenSource(word, tuple(dict.fromkeys(_ways(evaluation, word, preps)))) for word in hazards.allergens)
    chain = [evaluation, *preps.values()]
    inside = {item.inputs.spec.id for item in chain}
    shared: dict[tuple[str, str, str], CarryOver] = {}
    for item in chain:
        for other in others:
            if other.spec in inside:
                continue
            for found in carry_overs([item], other.traces):
                # What is in the drink anyway is not carried over into it.
                if found.allergen not in hazards.allergens:
                    shared.setdefault((found.gear, found.allergen, found.source), found)
    unknown = dict.fromkeys(name for item in chain for name in item.hazards.unknown)
    spec = evaluation.inputs.spec
    return AllergenAnswer(spec.name, spec.family == "drink", contains, tuple(shared.values()), tuple(unknown))
