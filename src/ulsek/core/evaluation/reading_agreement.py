"""Agreement of a reading with the prediction."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..base.figures import half_range, named, with_half_range
from ..base.messages import Message
from ..base.ranges import Range

AGREES_WITHIN = 1.2
"""A reading agrees within 1.2 times the 5 to 95 % half-range of prediction and instrument together: 95 % of honest readings do."""
SPIRIT_BLURS_BX = 0.03
"""What alcohol adds to a refractometer's half-range [°Bx per % vol]; see `properties.sugar.brix_reading`."""
NO_ACID_PH = Range(7.0, 5.0, 8.0)
PLANT_PH = Range(6.0, 3.5, 8.0)
"""pH of a liquid in which no acid is known: of defined substances alone (water takes carbon dioxide up from the air, sugar brings a little acid), and with
plants in it, whose own acid nobody has listed. Estimates, house experience."""


def instrument_half_range(name: str, abv: float = 0.0) -> float:
    """Returns the half-range (5 to 95 %) of one reading of `name`, in its own unit, in a liquid of `abv` [% vol].

    Raises LookupError for a figure whose readings are not compared with predictions. Source: `base.figures.FIGURES`.
    """
    half = half_range(name)
    return math.hypot(half, SPIRIT_BLURS_BX * abv) if name == "brix_reading" else half


@dataclass(frozen=True, slots=True)
class Agreement:
    """A reading `value` of the figure `name`, its prediction, and the largest difference that still agrees (`room`), in the figure's unit."""

    name: str
    value: float
    predicted: Range
    room: float

    @property
    def residual(self) -> float:
        """Reading less prediction, in the figure's unit."""
        return self.value - self.predicted.value

    @property
    def agrees(self) -> bool:
        """True if the difference is within `room`."""
        return abs(self.residual) <= self.room

    @property
    def read_words(self) -> Message:
        """Text of the reading: "10.0 °Bx", "pH 2.90"."""
        return named(self.name, self.value)

    @property
    def predicted_words(self) -> Message:
        """Text of the prediction: "80.0 °Bx ± 0.2"."""
        return with_half_range(self.name, self.predicted.value, self.predicted.half_width)


def agreement(name: str, value: float, predicted: Range, *, spread: float | None = None, abv: float = 0.0) -> Agreement:
    """Returns a reading compared with a prediction: room = 1.2 × √(half² + instrument²), where half is `spread` or the prediction's half-range on that side.

    48.2 °Bx read, 48.0 ± 0.5 predicted: room 0.65. Error: that of the half-ranges. Source: normal errors added in quadrature.
    """
    # The half-range towards the reading: a range may be wider on one side.
    side = predicted.high - predicted.value if value > predicted.value else predicted.value - predicted.low
    room = AGREES_WITHIN * math.hypot(side if spread is None else spread, instrument_half_range(name, abv))
    return Agreement(name, value, predicted, room)
