"""The register of a house: its scales, jiggers, droppers, pots, places, suppliers and sizes of labels, by kind, each with its figures and with what it changes."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from .figures import DROP_SIZE_ML, POT_CM, RESOLUTION_G
from .free_text import free_text
from .messages import Given, Message, listed, message
from .refusals import Refusal
from .units import DROP_ML
from .weighing import FINE_G, SCALE_G, Scales

MOST_NAME, MOST_NOTE = 60, 300
"""Most letters in the name and in the note of an entry [count]."""


@dataclass(frozen=True, slots=True)
class RegisterFigure:
    """One figure of an entry, with its unit and bounds; without `needed` it may stay unknown, and a `whole` one has no decimals. `such` is an example."""

    key: str
    label: Message
    unit: str
    low: float
    high: float
    such: float
    needed: bool = True
    whole: bool = False


@dataclass(frozen=True, slots=True)
class RegisterKind:
    """A kind of entries: its heading, what an entry of it changes, and its figures."""

    key: str
    title: Message
    changes: Message
    figures: tuple[RegisterFigure, ...]


KINDS: Mapping[str, RegisterKind] = {
    kind.key: kind
    for kind in (
        RegisterKind(
            "scale",
            message("Scales"),
            message(
                "Cards round what is weighed to the coarsest scale, and small amounts to the finest; what neither can weigh to 2 % asks for a finer one. Quick sums begin with the finest."
            ),
            (RegisterFigure("resolution_g", message("Reads to"), "g", RESOLUTION_G.low, RESOLUTION_G.high, 0.1),),
        ),
        RegisterKind(
            "pot",
            message("Pots"),
            message(
                "Offered at a step that simmers or reduces: the width decides how much steams off at a simmer, the power how long a reduction takes."
            ),
            (
                RegisterFigure("pot_cm", message("Across"), "cm", POT_CM.low, POT_CM.high, 24.0),
                RegisterFigure("power_w", message("Its ring puts into steam"), "W", 100.0, 20000.0, 1200.0, needed=False),
            ),
        ),
        RegisterKind(
            "jigger",
            message("Jiggers"),
            message(
                "Beside a weight that a few measures of it make, cards and the workbench say how many, where millilitres stand beside."
            ),
            (RegisterFigure("measure_ml", message("Measures"), "mL", 1.0, 1000.0, 25.0),),
        ),
        RegisterKind(
            "dropper",
            message("Droppers"),
            message("Quick sums that answer in drops begin with the first one, and so does what is counted in drops at the bench."),
            (
                RegisterFigure(
                    "drop_ml",
                    message("One drop; weigh twenty, in grams of water, and divide"),
                    "mL",
                    DROP_SIZE_ML.low,
                    DROP_SIZE_ML.high,
                    DROP_ML,
                ),
            ),
        ),
        RegisterKind(
            "place",
            message("Places and shelves"),
            message(
                "Offered wherever something is put down. A bottle that stands warmer than it keeps says so. A new name goes with everything that stands there."
            ),
            (RegisterFigure("at_c", message("How warm it is, at most"), "°C", -40.0, 40.0, 4.0, needed=False),),
        ),
        RegisterKind(
            "supplier",
            message("Suppliers"),
            message("Offered when a delivery is taken in. A new name goes with every delivery that came from there."),
            (),
        ),
        RegisterKind(
            "label",
            message("Sizes of labels"),
            message("Offered beside those that ship, wherever a label is printed."),
            (
                RegisterFigure("width_mm", message("Width"), "mm", 40.0, 210.0, 80.0, whole=True),
                RegisterFigure("height_mm", message("Height"), "mm", 25.0, 297.0, 50.0, whole=True),
            ),
        ),
    )
}
"""Every kind, in the order in which a screen shows them. Bounds are house judgement, but for those of a verb's own parameters."""


@dataclass(frozen=True, slots=True)
class RegisterEntry:
    """One entry of a house's register: its kind, name, figures by key in their units, and a note."""

    kind: str
    name: str
    figures: Mapping[str, float]
    note: str = ""


def kind_of(key: str) -> RegisterKind:
    """Returns the kind of a key. Raises Refusal for an unknown one."""
    if key not in KINDS:
        raise Refusal(
            message("A register has no “{kind}”", kind=key[:80]),
            "kind",
            message("there are {kinds}", kinds=listed(KINDS, "comma")),
            message("Choose one of them"),
            "unknown_reference",
        )
    return KINDS[key]


def read_entry(key: str, name: Any, figures: Mapping[str, Any], note: Any = "") -> RegisterEntry:
    """Returns an entry of a kind. Raises Refusal, at its place, for an unknown kind, no name, and a figure that is unknown, missing or out of its bounds."""
    kind = kind_of(key)
    called = free_text(name, "name", MOST_NAME, message("It has no name"), message("Write what people call it"))
    asked = {figure.key: figure for figure in kind.figures}
    for given in figures:
        if given not in asked:
            raise Refusal(message("“{name}” is no figure of it", name=str(given)[:80]), "figures", code="unknown_reference")
    read = {figure.key: value for figure in kind.figures if (value := _figure(figure, figures.get(figure.key))) is not None}
    return RegisterEntry(kind.key, called, read, free_text(note, "note", MOST_NOTE))


def _figure(figure: RegisterFigure, value: Any) -> float | None:
    where = f"figures/{figure.key}"
    bounds = message("from {low} to {high} {unit}", low=Given(figure.low), high=Given(figure.high), unit=figure.unit)
    if value is None:
        if figure.needed:
            raise Refusal(message("A figure is missing"), where, bounds, message("Measure it once"), "missing")
        return None
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not math.isfinite(value):
        raise Refusal(message("This is no number"), where, bounds, message("Write figures"), "unreadable")
    if not figure.low <= value <= figure.high:
        raise Refusal(
            message("{value} {unit} cannot be", value=Given(value), unit=figure.unit),
            where,
            bounds,
            message("Measure it again"),
            "out_of_bounds",
        )
    if figure.whole and not float(value).is_integer():
        raise Refusal(
            message("{value} {unit} is no whole number", value=Given(value), unit=figure.unit), where, bounds, code="out_of_bounds"
        )
    return float(value)


@dataclass(frozen=True, slots=True)
class Equipment:
    """The measuring equipment of a house: the resolution of each scale [g], the volume of each jigger [mL], the volume of one drop of its dropper [mL]."""

    scales_g: tuple[float, ...] = ()
    jiggers_ml: tuple[float, ...] = ()
    drop_ml: float = DROP_ML

    @property
    def scales(self) -> Scales:
        """The coarsest and the finest scale; those of most bars where none is known."""
        return Scales(max(self.scales_g, default=SCALE_G), min(self.scales_g, default=FINE_G))


USUAL_EQUIPMENT = Equipment()
"""That of a bar which has told nothing."""


def scale_of(resolution_g: float) -> Equipment:
    """Returns the usual equipment with a scale of `resolution_g` [g] at the bench."""
    return Equipment((resolution_g, min(FINE_G, resolution_g)))


def equipment(entries: Iterable[RegisterEntry]) -> Equipment:
    """Returns what the entries of a register weigh and measure with; entries of other kinds are passed over."""
    known = list(entries)

    def of(kind: str, figure: str) -> tuple[float, ...]:
        return tuple(entry.figures[figure] for entry in known if entry.kind == kind and figure in entry.figures)

    return Equipment(of("scale", "resolution_g"), of("jigger", "measure_ml"), next(iter(of("dropper", "drop_ml")), DROP_ML))
