"""Steps: what every verb has, and how its parameters are declared, so that reading, schema, documentation and screens use one declaration."""

from __future__ import annotations

import dataclasses
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any, ClassVar

from ..base.messages import NOTHING, Given, Message, message
from ..base.ranges import Range
from ..base.remarks import Remark, Severity
from ..materials.vessel_state import Outcome, StepContext, VesselState
from .amounts import Line

MOST_MINUTES = 60.0 * 24 * 400


@dataclass(frozen=True, slots=True)
class NumberParam:
    """A number between `low` and `high` in its unit; `words` is the text of the bounds."""

    low: float
    high: float
    unit: str
    words: Message
    optional: bool = False


@dataclass(frozen=True, slots=True)
class RangeParam:
    """A process figure with its range; `prior` is the starting value, whose range is shown until the house's own runs replace it."""

    ceiling: float
    unit: str
    optional: bool


@dataclass(frozen=True, slots=True)
class ChoiceParam:
    """One of a few words."""

    allowed: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class FlagParam:
    """Yes or no."""


@dataclass(frozen=True, slots=True)
class TextParam:
    """A text in people's own words."""


Param = NumberParam | RangeParam | ChoiceParam | FlagParam | TextParam


def number(default: float | None, low: float, high: float, unit: str, words: Message) -> Any:
    """Declares a number; None as default makes it optional."""
    return field(default=default, metadata={"param": NumberParam(low, high, unit, words, optional=default is None)})


def minutes(default: float) -> Any:
    """Declares a time [min]."""
    return number(default, 0.0, MOST_MINUTES, "min", message("from 0 minutes to 400 days"))


def celsius(default: float, low: float = -40.0, high: float = 120.0) -> Any:
    """Declares a temperature [°C]."""
    return number(default, low, high, "°C", message("from {low} to {high} °C", low=Given(low), high=Given(high)))


def prior(value: float, low: float, high: float, unit: str, ceiling: float = 1e6) -> Any:
    """Declares a process figure with its starting range: house experience, not a standard."""
    return field(default=Range(value, low, high), metadata={"param": RangeParam(ceiling, unit, optional=False)})


def optional_range(unit: str, ceiling: float) -> Any:
    """Declares a process figure that is only given if it is known better than the model computes it."""
    return field(default=None, metadata={"param": RangeParam(ceiling, unit, optional=True)})


def choice(default: str, *others: str) -> Any:
    """Declares one of a few words, the first being the default."""
    return field(default=default, metadata={"param": ChoiceParam((default, *others))})


def flag() -> Any:
    """Declares a yes or no, no being the default."""
    return field(default=False, metadata={"param": FlagParam()})


def text() -> Any:
    """Declares a text in people's own words."""
    return field(default="", metadata={"param": TextParam()})


def amount_in(context: StepContext, figure: Range) -> float:
    """Returns a process figure in this pass, at least 0 [its own unit]."""
    # A pass moves an uncertain figure past its range, and some figures are nothing below 0.
    return max(0.0, context.value_of(figure))


def share_in(context: StepContext, figure: Range, most: float = 1.0) -> float:
    """Returns a process share in this pass, from 0 to `most` [in the unit of the figure]."""
    # The nearest possible share stands for one that a pass moved past all or nothing.
    return min(most, amount_in(context, figure))


@dataclass(frozen=True, slots=True)
class Step:
    """What every step has. `check` says when it is done, in the words of its author; `note` how to do it.

    `into` is the vessel that takes the product, if it is another one; `by_product` names the outgoing stream, which later steps and other specs can then use.
    `hands_on_min` is the hands-on time [min], else the verb's; `keep_sample` asks to set a sample aside for comparison.
    """

    verb: ClassVar[str] = ""
    family: ClassVar[str] = ""
    title: ClassVar[Message] = NOTHING
    """The sentence of the verb, with places for its figures, for the names of its lines and for its gear."""
    title_alone: ClassVar[Message] = NOTHING
    """Its sentence when nothing goes in, where that is another one."""
    takes_lines: ClassVar[bool] = False
    usual_hands_on_min: ClassVar[float] = 2.0
    usual_gear: ClassVar[tuple[str, ...]] = ()
    usual_check: ClassVar[str] = ""
    scaled_up: ClassVar[Message] = NOTHING
    """What a batch of more than twice the spec does to it that the weights don't tell; nothing where it follows in proportion."""
    stays_put: ClassVar[bool] = False
    """Whether nothing changes but place, name or cleanliness."""
    tried: ClassVar[tuple[str, ...]] = ()
    """Names of its parameters that decide what comes out, and may be tried with a slider."""
    ends: ClassVar[bool] = False
    """Whether it ends the making: what stands in the vessel is corrected before it, not after."""

    id: str
    vessel: str
    lines: tuple[Line, ...] = ()
    note: str = ""
    check: str = ""
    into: str = ""
    by_product: str = ""
    gear: tuple[str, ...] = ()
    people: int = 1
    hands_on_min: float | None = None
    keep_sample: bool = False

    @classmethod
    def params(cls) -> Mapping[str, Param]:
        """Returns the verb's own parameters by name."""
        return {f.name: f.metadata["param"] for f in dataclasses.fields(cls) if "param" in f.metadata}

    @property
    def waiting_min(self) -> float:
        """Time without hands-on work [min]."""
        return float(getattr(self, "minutes", 0.0))

    @property
    def labour_min(self) -> float:
        """Hands-on time [min]."""
        return self.usual_hands_on_min if self.hands_on_min is None else self.hands_on_min

    def sentence(self, *, first: bool) -> Message:
        """Returns the sentence of this step, without its values. `first` is True for the first step of a spec."""
        del first
        return self.title if self.lines or not self.title_alone else self.title_alone

    def remark(self, code: str, severity: Severity, text: Message, remedy: Message = NOTHING) -> Remark:
        """Returns a remark at this step."""
        return Remark(code, severity, f"steps/{self.id}", text, remedy)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Returns the outcome for the vessel with its lines in. Mass in = mass that stays + mass that leaves."""
        del context
        return Outcome(state)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        """Yields what to watch at this step; `before` is the vessel with the lines in."""
        del before, after
        return iter(())
