"""Quick sums as values: the inputs with units and bounds, and the answer with its working."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from ..base.answer import HIDDEN, OpenForm, in_answer
from ..base.figures import DROP_SIZE_ML, RESOLUTION_G
from ..base.messages import NOTHING, Given, Message, listed, message, span
from ..base.refusals import Refusal
from ..base.register import USUAL_EQUIPMENT, Equipment
from ..base.units import DROP_ML, read_number
from ..materials.material import Material, read_material
from ..materials.shipped import shipped_bodies
from ..safety.hazards import starting_limits

MOST_SAID = 120
"""Letters of words of one's own."""


@dataclass(frozen=True, slots=True)
class Ask:
    """One input of a sum: a number with its unit and bounds, one of a few words (`allowed`), the key of a material, or a text (`text`).

    An `optional` one may stay empty; one that is seldom changed is `aside`. `lends` is the figure of a liquid or reading that can fill it. `name` is the name
    by which its sum asks for it. `tool` is the equipment whose figure is its usual value.
    """

    label: Message
    unit: str = ""
    low: float = field(default=0.0, metadata=HIDDEN)
    high: float = field(default=1e6, metadata=HIDDEN)
    usual: float | str | None = None
    allowed: tuple[str, ...] = ()
    material: bool = False
    text: bool = False
    optional: bool = False
    aside: bool = False
    lends: str = ""
    name: str = ""
    tool: Literal["", "scale", "dropper"] = field(default="", metadata=HIDDEN)

    @property
    @in_answer()
    def words(self) -> Message:
        """Text of the bounds."""
        return span(self.low, self.high, self.unit)

    def fitted(self, at: Equipment) -> Ask:
        """Returns the same input with the figure of a house's own equipment as its usual value, if the house has told it."""
        if self.tool == "dropper":
            return replace(self, usual=at.drop_ml)
        return replace(self, usual=at.scales.fine_g) if self.tool == "scale" and at.scales_g else self


SCALE = Ask(message("Scale reads to"), "g", RESOLUTION_G.low, RESOLUTION_G.high, 0.1, aside=True, tool="scale")
"""The resolution of the scale [g]."""
DROP = Ask(message("One drop"), "mL", DROP_SIZE_ML.low, DROP_SIZE_ML.high, DROP_ML, aside=True, tool="dropper")
"""The volume of one drop [mL]."""


@dataclass(frozen=True, slots=True)
class SumFigure:
    """One figure of an answer: its name, value, unit, and range if it has one. `key` is its key in the registry, if it is one of those."""

    name: Message
    value: float
    unit: str
    low: float | None = None
    high: float | None = None
    key: str = field(default="", metadata=HIDDEN)


@dataclass(frozen=True, slots=True)
class SumPart:
    """One thing that goes into the vessel: how much [`unit`] of what kind (water, sugar, acid, spirit, rest)."""

    name: Message
    amount: float
    unit: str
    kind: str


@dataclass(frozen=True, slots=True)
class SumSpot:
    """A point on the plate: sugar and acid [g/100 mL]."""

    name: Message
    sugar: float
    acid: float


@dataclass(frozen=True, slots=True)
class SumAnswer:
    """The answer of a sum: the main figure first, the formula in words, its source, and remarks.

    `parts` are drawn as a small river, `spots` on the plate, the earlier first; `step` is the answer as a step of a spec, if it can be one.
    """

    figures: tuple[SumFigure, ...]
    formula: Message
    source: str
    remarks: tuple[Message, ...] = ()
    parts: tuple[SumPart, ...] = ()
    spots: tuple[SumSpot, ...] = ()
    step: OpenForm | None = None

    def of(self, key: str) -> float:
        """Returns the value of a figure of the registry, in its unit. Raises LookupError if this answer does not have it."""
        found = next((figure.value for figure in self.figures if figure.key == key), None)
        if found is None:
            raise LookupError(f"The sum does not answer with {key}")
        return found


Answers = Mapping[str, Any]


@dataclass(frozen=True, slots=True)
class Sum:
    """A quick sum: its name, the kind of need it answers, what it is for, the inputs that it asks for, the function that computes it, and its error.

    `given` is the class whose instance holds the inputs of a function that takes one value; None for one that takes each input by its name. `by_limits` is
    True if the function needs the limits of restricted substances, `acid_stock` if its answer is a stock solution to dose acid from.
    """

    name: str
    group: str
    about: Message
    asks: Mapping[str, Ask] = field(metadata=HIDDEN)
    work: Callable[..., SumAnswer] = field(repr=False, metadata=HIDDEN)
    error: Message
    given: type | None = field(default=None, metadata=HIDDEN)
    by_limits: bool = field(default=False, metadata=HIDDEN)
    acid_stock: bool = field(default=False, metadata=HIDDEN)

    @property
    @in_answer(name="asks")
    def questions(self) -> tuple[Ask, ...]:
        """The inputs, each with its name, in order."""
        return tuple(replace(ask, name=name) for name, ask in self.asks.items())

    def answer(
        self,
        given: Answers,
        own: Mapping[str, Mapping[str, Any]] | None = None,
        limits: Mapping[str, Any] | None = None,
        at: Equipment = USUAL_EQUIPMENT,
    ) -> SumAnswer:
        """Returns the answer for inputs given as numbers or as typed; `own` describes the house's materials besides the typical ones; `limits` and the equipment
        `at` hand are the house's.

        Raises Refusal, at its input, for what is missing, unreadable or out of bounds.
        """
        unknown = sorted(set(given) - set(self.asks))
        if unknown:
            raise Refusal(
                message("This sum does not ask for “{unknown}”", unknown=unknown[0]),
                unknown[0],
                message("it asks for {asks}", asks=listed(self.asks, "comma")),
                code="unknown_word",
            )
        figures = {name: _read(name, ask.fitted(at), given.get(name), own or {}) for name, ask in self.asks.items()}
        if self.given is not None:
            return self.work(self.given(**figures))
        return self.work(**figures, limits=limits or starting_limits()) if self.by_limits else self.work(**figures)


def _read(name: str, ask: Ask, given: Any, own: Mapping[str, Mapping[str, Any]]) -> Any:
    # An empty field takes the usual value; a zero that was typed is a value.
    value = ask.usual if given in (None, "") else given
    if value is None and ask.optional:
        return None
    if value is None:
        raise Refusal(
            message("{label} is missing", label=ask.label),
            name,
            ask.words if not (ask.allowed or ask.material or ask.text) else NOTHING,
            message("Fill it in; the rest is kept"),
            "missing",
        )
    if ask.text:
        said = str(value).strip()
        if len(said) > MOST_SAID:
            raise Refusal(
                message("{label} is too long", label=ask.label),
                name,
                message("at most {most} letters", most=MOST_SAID),
                message("Say it shorter"),
                "too_long",
            )
        return said
    if ask.material:
        return material(str(value), name, own)
    if ask.allowed:
        if value not in ask.allowed:
            raise Refusal(
                message("“{value}” is not known here", value=str(value)),
                name,
                message("choose one of {allowed}", allowed=listed(ask.allowed, "comma")),
            )
        return value
    try:
        number = read_number(value) if isinstance(value, str) else value
    except Refusal as refusal:
        raise refusal.at(name) from refusal
    # JSON's true is an int in Python, and a factor of 1 is not what was meant by it.
    if isinstance(number, bool) or not isinstance(number, int | float) or not math.isfinite(number):
        raise Refusal(message("{label} must be a number", label=ask.label), name, ask.words, code="not_finite")
    if not ask.low <= number <= ask.high:
        raise Refusal(message("{value} is out of bounds", value=Given(number, ask.unit)), name, ask.words, code="out_of_bounds")
    return float(number)


def material(key: str, where: str, own: Mapping[str, Mapping[str, Any]]) -> Material:
    """Returns a material by its key, the house's own before a typical one. Raises Refusal for an unknown key."""
    body = own.get(key) or shipped_bodies().get(key)
    if body is None:
        raise Refusal(
            message("Nothing is known about “{key}”", key=key),
            where,
            remedy=message("Choose a material from Stores"),
            code="unknown_material",
        )
    return read_material(key, body, where)


_SPIRIT_SHARE, _GROUP_SHARE = 0.1, 0.05
"""Mass shares from which a material counts as spirit, or as sugar, acid or other solids: below, water explains it. House experience."""


def kind_of(material: Material) -> str:
    """Returns the kind of a material in a small river: its largest group besides water (spirit from a tenth, sugar and acid from a twentieth), else water."""
    made_of = material.per_gram()
    if made_of.of("ethanol") >= _SPIRIT_SHARE:
        return "spirit"
    # Spirit before its larger share of water, since a spirit is what it is poured for.
    bands = made_of.bands()
    most = {"sugar": bands["sugar"], "acid": bands["acid"], "rest": bands["solids"]}
    best = max(most, key=most.__getitem__)
    return best if most[best] >= _GROUP_SHARE else "water"


def step(verb: str, *lines: tuple[str, float], **parameters: float) -> Mapping[str, Any]:
    """Returns a step of a spec with its lines (material's key, mass [g]), to four figures, and its verb's own parameters."""
    made = [{"id": key, "material": key, "amount": {"kind": "fixed", "mass_g": float(f"{grams:.4g}")}} for key, grams in lines if grams > 0]
    return {"verb": verb, **parameters, **({"lines": made} if made else {})}
