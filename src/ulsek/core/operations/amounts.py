"""Amounts: how much of one thing goes in during a step. A tagged union of pure values."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..base.ranges import Range
from ..base.units import Dimension

Basis = Literal["weight", "volume"]
PercentBasis = Literal["w/w", "w/v", "v/v"]
TargetProperty = Literal["brix", "acid_g_100ml", "sugar_g_100ml", "abv", "volume_ml", "mass_g"]
DosedBy = Literal["sum", "reading"]
Reaching = Literal["cover", "top_up"]

BY_PRODUCT, VESSEL = "by_product:", "vessel:"
"""Prefixes of a line's material when it comes from this spec itself: a stream that left an earlier step, or another vessel."""


@dataclass(frozen=True, slots=True)
class Fixed:
    """A fixed amount: grams, mL or pieces, with the text it was written as. It grows with the batch unless `scales` is False.

    `spread` is its range in the same unit if it was written as one ("about", "a handful"); `to_taste` marks an amount that is decided within that range while
    the batch is made; `assumed` one that nobody wrote: the usual amount of its kind.
    """

    quantity: float
    dimension: Dimension
    written: str
    scales: bool = True
    spread: Range | None = None
    to_taste: bool = False
    assumed: bool = False


@dataclass(frozen=True, slots=True)
class Ratio:
    """`ratio` parts to one part of another line, or of a vessel as it is when the step begins; by weight or by volume."""

    ratio: float
    basis: Basis
    line: str | None = None
    vessel: str | None = None


@dataclass(frozen=True, slots=True)
class Percent:
    """Percent of the vessel as it is when the step begins. w/w: g per 100 g; w/v: g per 100 mL; v/v: mL per 100 mL."""

    percent: float
    basis: PercentBasis


@dataclass(frozen=True, slots=True)
class Target:
    """The amount that brings the vessel to `value` of a property, in its unit. `dosed` by "sum": the amount is exact and the result uncertain; by "reading":
    the reverse.
    """

    property: TargetProperty
    value: float
    dosed: DosedBy = "sum"


@dataclass(frozen=True, slots=True)
class State:
    """The amount that brings the vessel to a state: `cover` its solids, or `top_up` to its line (`line_ml` [mL], else its capacity)."""

    state: Reaching
    line_ml: float | None = None


@dataclass(frozen=True, slots=True)
class All:
    """All of a by-product or vessel of this spec, or a `share` of it [0 to 1]."""

    share: float = 1.0


Amount = Fixed | Ratio | Percent | Target | State | All


@dataclass(frozen=True, slots=True)
class Line:
    """One thing that goes in during a step: the key of a material, or `by_product:NAME` or `vessel:ID` for what this spec has made."""

    id: str
    material: str
    amount: Amount
    note: str = ""
    """What was written where it was read from: “juice of 2 lemons”."""

    @property
    def own(self) -> bool:
        """True if it comes from this spec and not from Stores."""
        return self.material.startswith((BY_PRODUCT, VESSEL))
