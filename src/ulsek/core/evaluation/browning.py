"""Browning: how long cut or juiced fruit stays bright in air, and what delays it."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ..base.messages import Computed, message
from ..base.remarks import Remark
from ..materials.vessel_state import SHELF_C
from ..properties.density import volume_ml
from .flow_values import Inputs, StepFlow

_USED_G_L_H = 0.25
"""Ascorbic acid that browning uses up at 20 °C [g per L and hour]; 0.1 to 0.6, house experience, doubling per 10 K."""
_FASTEST_C, _DOUBLES_PER_K = 45.0, 10.0
"""Temperature [°C] at which browning is fastest, and the difference [K] that doubles its pace. House experience."""
_ENZYME_DEAD_C = 70.0
_SPIRIT_STOPS = 0.12


def minutes_before_browning(browns_min: float, ascorbic_g_l: float, t_c: float) -> float:
    """Returns the time [min] until a juice that browns in `browns_min` [min at 20 °C] does so with `ascorbic_g_l` [g/L] in it at `t_c` [°C].

    The antioxidant is used up first, then browning begins; both twice as fast per 10 K, to 45 °C. Other acids slow the enzyme but are no antioxidant of that
    kind. 20 min and 0.5 g/L at 20 °C: 140 min. Error a factor of two. Source: house experience, not a standard.
    """
    # Hotter, the enzyme slows again; the figure stays on the prudent side.
    pace = math.pow(2.0, (min(t_c, _FASTEST_C) - SHELF_C) / _DOUBLES_PER_K)
    # Ascorbic acid turns quinones back as they form: until it is gone nothing is brown.
    return (browns_min + 60.0 * ascorbic_g_l / _USED_G_L_H) / pace


def browning_remarks(inputs: Inputs, done: StepFlow) -> Iterator[Remark]:
    """Yields a remark on each material that will have browned by the end of a step. Heat of 70 °C and strong alcohol stop the enzyme."""
    state = done.state
    if state.hottest_c >= _ENZYME_DEAD_C or not state.open_since_min or state.liquid.mass_g <= 0:
        return
    # Strong alcohol precipitates the enzyme.
    if state.liquid.of("ethanol") > _SPIRIT_STOPS * state.liquid.mass_g:
        return
    ascorbic = 1000.0 * state.liquid.of("ascorbic_acid") / volume_ml(state.liquid)
    for key, since in state.open_since_min.items():
        material = inputs.materials.get(key)
        if material is None or material.browns_min is None:
            continue
        holds = minutes_before_browning(material.browns_min, ascorbic, state.temperature_c)
        exposed_min = done.ends_min - since
        if exposed_min > holds:
            yield Remark(
                "browns",
                "check",
                f"steps/{done.step.id}",
                message(
                    "{material} stands open {stood} and browns after about {holds}.",
                    material=material.name,
                    stood=Computed(exposed_min, "min", 0),
                    holds=Computed(holds, "min", 0),
                ),
                message("Let it run onto 0.5 to 2 g/L ascorbic acid, work colder, or heat it through"),
            )
            return
