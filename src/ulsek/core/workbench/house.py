"""What a draft is evaluated with: the materials and rules of a house."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Protocol

from ..base.messages import message
from ..base.refusals import Refusal
from ..base.units import Locale
from ..materials.material import Material
from ..results.spec_card import SecondMeasure
from ..safety.house_rules import Rules
from ..spec.spec import Spec


@dataclass(frozen=True, slots=True)
class Measures:
    """How masses are shown beside grams: as `beside` says, in cups of the `locale`, and in measures of the jiggers [mL]."""

    beside: SecondMeasure = "nothing"
    locale: Locale = "metric"
    jiggers_ml: tuple[float, ...] = ()


class House(Protocol):
    """A house as a draft needs it. The site reads it from its tables, a browser from the bundle that it keeps."""

    @property
    def rules(self) -> Rules:
        """The house's rules over those that ship."""

    @property
    def measures(self) -> Measures:
        """How the house shows masses."""

    def materials(self, keys: Iterable[str]) -> Mapping[str, Material]:
        """Returns the materials of these keys, by key, each with the composition and price of its newest open delivery. Unknown keys are omitted."""

    def described(self) -> Mapping[str, Mapping[str, Any]]:
        """Returns every material that the house may use, in the open form."""


def circles(spec: Spec, made_with_it: Sequence[str]) -> Iterator[Refusal]:
    """Yields a refusal for each line that would make the spec with itself. `made_with_it` is the spec's own key as a material, then that of every spec above it."""
    for step in spec.steps:
        for line in step.lines:
            if line.material in made_with_it:
                yield Refusal(
                    message("“{replace}” would be made with itself", replace=made_with_it[0].replace("_", " ")),
                    f"steps/{step.id}/lines/{line.id}/material",
                    remedy=message("Draw on something that does not use it"),
                    code="circle",
                )
