"""The lines of instruments (docs/formats/instruments.md)."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ulsek.core.base.figures import FIGURES
from ulsek.core.run.weighing import LEAST_SHOWN_G

KINDS: Mapping[str, tuple[str, ...]] = {
    "scale": ("mass_g",),
    "refractometer": ("brix_reading",),
    "ph_meter": ("ph",),
    "thermometer": ("temperature_c",),
    "titrator": ("naoh_ml",),
    "label_printer": (),
}
"""Each kind of instrument with what it shows."""
TOLD: Mapping[str, tuple[str, ...]] = {"scale": ("tare",), "titrator": ("run",)}
"""What each kind may be told from a screen."""
MOST_IN_LINE = 200
"""Letters of a line [count]; an instrument that says more without a break says nothing that is read."""
_ANSWERS = ("done", "fault", "printed", "no")


@dataclass(frozen=True, slots=True)
class Shown:
    """A reading: `value` in the unit of its property (None if it is over its range), `steady`, and for a pH meter whether it is `checked`."""

    property: str
    value: float | None
    steady: bool
    checked: bool = False


def read_line(kind: str, line: bytes) -> Shown | None:
    """Returns the reading in a line; None if it is no line of this kind of instrument or its figure cannot be."""
    try:
        name, figure, *more = line.decode("ascii").split()
    except (UnicodeDecodeError, ValueError):
        return None
    if name not in KINDS[kind]:
        return None
    if figure == "over":
        return Shown(name, None, steady=False)
    try:
        value = float(figure)
    except ValueError:
        return None
    low, high, _ = FIGURES[name].readable
    if name == "mass_g":
        low = LEAST_SHOWN_G
    if not math.isfinite(value) or not low <= value <= high or not set(more) <= {"steady", "moving", "checked", "unchecked"}:
        return None
    return Shown(name, value, "steady" in more, "checked" in more)


def is_answer(line: bytes) -> bool:
    """Returns True for a line that answers a word sent to the instrument."""
    return line.split(b" ")[0].decode("ascii", "replace").strip() in _ANSWERS
