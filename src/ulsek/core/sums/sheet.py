"""A quick sum as a value: what it asks, with units and bounds, and what it answers, with its working."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import cache
from typing import Any

from ..base.answer import HIDDEN, OpenForm, in_answer
from ..base.messages import NOTHING, Given, Message, listed, message, span
from ..base.refusals import Refusal
from ..base.units import read_number
from ..materials.material import Material, read_material
from ..materials.reference_materials import typical_materials
from ..safety.hazards import starting_limits

MOST_SAID = 120
"""Letters of words of one's own."""


@dataclass(frozen=True, slots=True)
class Ask:
    """One figure that a sum asks for: a number with its unit and bounds, one of a few words (`allowed`), a material's key, or words of one's own (`text`). An `optional` one may
    stay empty; one that is seldom changed stands `aside`. `lends` names the figure
    that a bottle or a reading can lend to it. `name` is that by which its sum asks for it."""

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

    @property
    @in_answer()
    def words(self) -> Message:
        return span(self.low, self.high, self.unit)


@dataclass(frozen=True, slots=True)
class SumFigure:
    """One answer: its name in kitchen words, value, unit, and range where it has one. `key` is that of the figure in the registry, where it is one of those."""

    name: Message
    value: float
    unit: str
    low: float | None = None
    high: float | None = None
    key: str = field(default="", metadata=HIDDEN)


@dataclass(frozen=True, slots=True)
class SumPart:
    """One thing that goes into the vessel, for its small river: how much [`unit`] of what kind (water, sugar, acid, spirit, rest)."""

    name: Message
    amount: float
    unit: str
    kind: str


@dataclass(frozen=True, slots=True)
class SumSpot:
    """Where it stands on the plate: sugar and acid [g/100 mL]."""

    name: Message
    sugar: float
    acid: float


@dataclass(frozen=True, slots=True)
class SumAnswer:
    """What a sum gives: the answer that is asked for first, the formula in words, its source, and what a careful maker would add.

    `parts` are drawn as a small river, `spots` on the plate, before first; `step` is the answer as a step of a spec, where it can be one.
    """

    figures: tuple[SumFigure, ...]
    formula: Message
    source: str
    remarks: tuple[Message, ...] = ()
    parts: tuple[SumPart, ...] = ()
    spots: tuple[SumSpot, ...] = ()
    step: OpenForm | None = None

    def of(self, key: str) -> float:
        """The value of a figure of the registry, in its unit. Raises LookupError if this sum does not answer with it."""
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
        """What it asks, each with its name, in order."""
        return tuple(replace(ask, name=name) for name, ask in self.asks.items())

    def answer(
        self, given: Answers, own: Mapping[str, Mapping[str, Any]] | None = None, limits: Mapping[str, Any] | None = None
    ) -> SumAnswer:
        """The answer to figures given as numbers or as typed; `own` describes the house's materials beside the typical ones, `limits` are the house's.
        Refuses what is missing, unreadable or out of bounds, each at its own place."""
        unknown = sorted(set(given) - set(self.asks))
        if unknown:
            raise Refusal(
                message("This sum does not ask for “{unknown}”", unknown=unknown[0]),
                unknown[0],
                message("it asks for {asks}", asks=listed(self.asks, "comma")),
                code="unknown_word",
            )
        figures = {name: _read(name, ask, given.get(name), own or {}) for name, ask in self.asks.items()}
        if self.given is not None:
            return self.work(self.given(**figures))
        return self.work(**figures, limits=limits or starting_limits()) if self.by_limits else self.work(**figures)


def _read(name: str, ask: Ask, given: Any, own: Mapping[str, Mapping[str, Any]]) -> Any:
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
    if isinstance(number, bool) or not isinstance(number, int | float) or not math.isfinite(number):
        raise Refusal(message("{label} must be a number", label=ask.label), name, ask.words, code="not_finite")
    if not ask.low <= number <= ask.high:
        raise Refusal(message("{value} is out of bounds", value=Given(number, ask.unit)), name, ask.words, code="out_of_bounds")
    return float(number)


@cache
def _typical() -> dict[str, dict[str, Any]]:
    return typical_materials()


def material(key: str, where: str, own: Mapping[str, Mapping[str, Any]]) -> Material:
    """A material by its key, the house's own before a typical one. Refuses one that is not known."""
    body = own.get(key) or _typical().get(key)
    if body is None:
        raise Refusal(
            message("Nothing is known about “{key}”", key=key),
            where,
            remedy=message("Choose a material from Stores"),
            code="unknown_material",
        )
    return read_material(key, body, where)


def kind_of(material: Material) -> str:
    """What a material is in a small river: the band that it holds most of beside its water (spirit from a tenth, sugar, acid from a twentieth), else water."""
    made_of = material.per_gram()
    if made_of.of("ethanol") >= 0.1:
        return "spirit"
    bands = made_of.bands()
    most = {"sugar": bands["sugar"], "acid": bands["acid"], "rest": bands["solids"]}
    best = max(most, key=most.__getitem__)
    return best if most[best] >= 0.05 else "water"


def step(verb: str, *lines: tuple[str, float], **parameters: float) -> dict[str, Any]:
    """A step of a spec with its lines (material's key, grams [g]), to four figures, and its verb's own parameters."""
    made = [{"id": key, "material": key, "amount": {"kind": "fixed", "mass_g": float(f"{grams:.4g}")}} for key, grams in lines if grams > 0]
    return {"verb": verb, **parameters, **({"lines": made} if made else {})}
