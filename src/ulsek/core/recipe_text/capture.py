"""Capture: a draft spec from weighings, for people who do not write amounts: the vessel on the scale, the name of what goes in, pour, next.

Each action is a row. Something goes in: `material` with `mass_g` of a tared scale, `shown_g` of one that was not tared, or `drops`; with `verb` and that verb's
figures it begins a step, without it joins the step before. Something is poured over: `from` a vessel, all of it or `mass_g`. Something is done: `verb` with its
figures; its outgoing stream is named by `by_product` or goes `into` a vessel, and `out_g` is its mass. `vessel` says where, and holds until another is named.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from ..base import number_format
from ..base.answer import encode
from ..base.budgets import WEIGHINGS, within
from ..base.figures import MOST_G
from ..base.messages import Message, listed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.units import DROP_ML
from ..evaluation.flow import flow
from ..evaluation.flow_values import Inputs
from ..materials.material import Material
from ..operations.amounts import VESSEL
from ..operations.catalogue import VERBS
from ..operations.finish import Split
from ..operations.strain import Strain
from ..spec.json_form import FORMAT, FORMAT_VERSION, read_spec
from .templates import file_id

_GOES_IN = ("material", "mass_g", "shown_g", "drops", "drop_ml", "verb", "vessel")
_POURED = ("from", "mass_g", "vessel")
_DONE = ("verb", "by_product", "into", "out_g", "vessel")
_LEAST_RATIO, _MOST_RATIO = 1e-6, 1000.0
"""What a ratio of a spec may be; a weight beyond it stays in grams."""
_FIRST_VESSEL = "pot"
_TRIED_HOLD, _MOST_HOLD = 0.1, 20.0
"""Grams of liquid per gram strained out: a hold that any batch can bear, for the slope, and the most that a sieve may have."""
_WEIGHED_ONCE = 0.1
"""Half-range of a hold that was weighed once, as a share of it; house experience: how long it dripped."""


def _positive(given: Any, where: str, words: Message, remedy: Message) -> float:
    if isinstance(given, bool) or not isinstance(given, int | float) or not math.isfinite(given) or not 0 < given <= MOST_G:
        raise Refusal(words, where, message("above 0 and at most a tonne"), remedy, "missing")
    return float(given)


@dataclass
class _Draft:
    """The draft as it grows row by row. `shown` is what a scale that is not tared shows under each vessel [g]."""

    steps: list[dict[str, Any]] = field(default_factory=list)
    vessels: dict[str, str] = field(default_factory=dict)
    vessel: str = ""
    shown: dict[str, float] = field(default_factory=dict)
    out_g: dict[str, float] = field(default_factory=dict)
    first_g: float = 0.0
    driver: str = ""
    lines: int = 0

    def place(self, name: Any, where: str) -> str:
        """Returns the id of a vessel by its name; a new name begins a vessel. Raises Refusal for an empty name."""
        if not isinstance(name, str) or not name.strip():
            raise Refusal(message("A vessel needs its name"), where, remedy=message("Say what it is: pot, tall jug"), code="missing")
        key = file_id(name)
        self.vessels.setdefault(key, name.strip())
        return key

    def begin(self, verb: str, figures: Mapping[str, Any]) -> None:
        self.steps.append({"id": f"s{len(self.steps) + 1}", "verb": verb, "vessel": self.vessel, **figures})

    def line(self, material: str, amount: Mapping[str, Any]) -> None:
        self.lines += 1
        self.steps[-1].setdefault("lines", []).append({"id": f"l{self.lines}", "material": material, "amount": dict(amount)})

    def take(self, row: Mapping[str, Any], where: str) -> None:
        """Adds one row. Raises Refusal for a member that a row of its kind does not have."""
        before = self.vessel
        if row.get("vessel") is not None or not self.vessel:
            self.vessel = self.place(row.get("vessel", _FIRST_VESSEL), f"{where}/vessel")
        if row.get("from") is not None:
            _only(row, _POURED, where, message("what is poured over"))
            self._poured(row, where)
            return
        verb = str(row.get("verb") or "")
        if verb and verb not in VERBS:
            raise Refusal(
                message("“{verb}” is no verb", verb=verb), f"{where}/verb", remedy=message("Choose one of the list"), code="unknown_verb"
            )
        own = tuple(VERBS[verb].params()) if verb else ()
        figures = {key: value for key, value in row.items() if key in own}
        if row.get("material"):
            _only(row, (*_GOES_IN, *own), where, message("a weighing"))
            if verb or not self.steps or self.vessel != before or not VERBS[self.steps[-1]["verb"]].takes_lines:
                self.begin(verb or "combine", figures)
            self.line(str(row["material"]), self._amount(row, where))
        elif verb:
            _only(row, (*_DONE, *own), where, message("something that was done"))
            self._done(verb, figures, row, where)
        else:
            raise Refusal(
                message("Neither a material nor a step"), where, remedy=message("Name what went in, or what was done"), code="missing"
            )

    def _amount(self, row: Mapping[str, Any], where: str) -> dict[str, Any]:
        ways = [key for key in ("mass_g", "shown_g", "drops") if row.get(key) is not None]
        if len(ways) > 1:
            raise Refusal(
                message("How much went in is given twice"), where, remedy=message("Give mass_g of a tared scale, shown_g of one that was not, or drops"), code="twice"
            )  # fmt: skip
        if ways == ["drops"]:
            drops = _positive(row["drops"], f"{where}/drops", message("Drops need their number"), message("Count them again"))
            one = _positive(
                row.get("drop_ml", DROP_ML), f"{where}/drop_ml", message("A drop needs its mL"), message("Weigh twenty drops and divide")
            )
            return {"kind": "fixed", "volume_ml": float(f"{drops * one:.9g}")}
        grams = self._grams(row, where)
        if not self.driver:
            self.driver, self.first_g = f"l{self.lines + 1}", grams
        elif _LEAST_RATIO <= grams / self.first_g <= _MOST_RATIO:
            return {"kind": "ratio", "to": {"line": self.driver}, "basis": "weight", "ratio": float(f"{grams / self.first_g:.9g}")}
        return {"kind": "fixed", "mass_g": grams}

    def _grams(self, row: Mapping[str, Any], where: str) -> float:
        """Returns the mass that went in [g]: `mass_g` on a tared scale, or the rise of `shown_g` on one that was not tared."""
        tared, stood = row.get("mass_g") is not None, self.shown.get(self.vessel, 0.0)
        given = _positive(
            row.get("mass_g") if tared else row.get("shown_g"),
            where,
            message("A weighing needs its grams"),
            message("Give mass_g, or shown_g of an untared scale"),
        )
        grams = given if tared else given - stood
        if grams <= 0:
            raise Refusal(
                message("The scale went from {stood} to {given} g", stood=f"{stood:g}", given=f"{given:g}"),
                where,
                message("what is put in makes it rise"),
                message("Tare it and weigh again, or write down what was taken out"),
                "not_positive",
            )
        self.shown[self.vessel] = stood + grams if tared else given
        return grams

    def _poured(self, row: Mapping[str, Any], where: str) -> None:
        source = self.place(row["from"], f"{where}/from")
        if source == self.vessel or all(step["vessel"] != source for step in self.steps):
            raise Refusal(
                message("Nothing stands in “{value}” to pour over", value=row["from"]), f"{where}/from", remedy=message("Name the vessel that it was in"), code="unknown_reference"
            )  # fmt: skip
        amount: dict[str, Any] = {"kind": "all"}
        if row.get("mass_g") is not None:
            mass = _positive(
                row["mass_g"], f"{where}/mass_g", message("What was poured over needs its grams"), message("Weigh it, or pour all of it")
            )
            amount = {"kind": "fixed", "mass_g": mass}
            self._fell(source, mass)
            self.shown[self.vessel] = self.shown.get(self.vessel, 0.0) + mass
        self.begin("combine", {})
        self.line(f"{VESSEL}{source}", amount)

    def _done(self, verb: str, figures: Mapping[str, Any], row: Mapping[str, Any], where: str) -> None:
        more: dict[str, Any] = {}
        mass = 0.0
        if row.get("by_product"):
            more["by_product"] = str(row["by_product"]).strip()
        if row.get("into"):
            more["into"] = self.place(row["into"], f"{where}/into")
        if row.get("out_g") is not None:
            mass = _positive(row["out_g"], f"{where}/out_g", message("What came out needs its grams"), message("Weigh it, or leave it out"))
            more["note"] = f"{number_format.grams(mass)} came out"
            self._fell(self.vessel, mass)
        elif verb == Split.verb:
            # What is drawn off leaves the scale: so many grams, or its share of what stands there.
            self._fell(self.vessel, float(figures.get("mass_g") or self.shown.get(self.vessel, 0.0) * float(figures.get("share") or 0.0)))
        self.begin(verb, {**figures, **more})
        if row.get("out_g") is not None:
            self.out_g[self.steps[-1]["id"]] = mass

    def _fell(self, vessel: str, mass: float) -> None:
        if vessel in self.shown:
            self.shown[vessel] = max(0.0, self.shown[vessel] - mass)


def _only(row: Mapping[str, Any], known: Sequence[str], where: str, what: Message) -> None:
    for key in row:
        if key not in known:
            bound = message("{what} has {names}", what=what, names=listed(dict.fromkeys(known), "comma"))
            raise Refusal(message("“{key}” is not known here", key=key), f"{where}/{key}", bound, message("Leave it out, or spell it so"))


def _fit_sieve(body: Mapping[str, Any], step: dict[str, Any], out_g: float, materials: Mapping[str, Material]) -> None:
    """Sets the hold of a sieve so that its solids have the mass that was weighed: it is linear in the hold, so two passes determine it.

    A mass that no hold gives, or solids that are not described, leave the step as it is.
    """

    def leaves(hold: float) -> float:
        step["hold_g_g"] = hold
        done = flow(Inputs(read_spec(body), materials))
        found = next((item for item in done.steps if item.step.id == step["id"]), None)
        if found is None:
            raise done.refusal or Refusal(message("The step was not reached"), "steps")
        return math.fsum(stream.contents.mass_g for stream in found.outgoing)

    try:
        dry, wet = leaves(0.0), leaves(_TRIED_HOLD)
        hold = _TRIED_HOLD * (out_g - dry) / (wet - dry) if wet > dry else -1.0
        if 0.0 <= hold <= _MOST_HOLD:
            leaves(hold)
            step["hold_g_g"] = encode(Range(*(float(f"{hold * (1.0 + sign * _WEIGHED_ONCE):.4g}") for sign in (0, -1, 1))))
            return
    except Refusal:
        # More than there is, or of solids that nobody described: its weight stands in the note.
        pass
    del step["hold_g_g"]


def materials_in(weighings: Sequence[Any]) -> set[str]:
    """Returns the materials that the rows name."""
    return {str(row["material"]) for row in weighings if isinstance(row, Mapping) and row.get("material")}


def captured(name: str, weighings: Sequence[Any], materials: Mapping[str, Material] | None = None) -> dict[str, Any]:
    """Returns the draft of these rows, in order: the first weighed material is the driving line, every other is by ratio to it.

    1000 g, then the scale at 1 620: the second is 0.62 of the first. If the `materials` are known, a sieve whose solids were weighed (`out_g`) gets the hold
    that gives that mass, ± 10 %. Raises Refusal, at its place, for masses of 0 or less, a scale that falls, vessels that are empty, and unknown verbs.
    """
    if not name.strip():
        raise Refusal(message("What is made needs a name"), "name", remedy=message("Name it as it will stand on the label"), code="missing")
    within(weighings, WEIGHINGS, message("weighings"), "weighings", message("Capture it in parts"))
    draft = _Draft()
    for n, row in enumerate(weighings):
        if not isinstance(row, Mapping):
            raise Refusal(message("A weighing must be an object"), f"weighings/{n}", code="unreadable")
        draft.take(row, f"weighings/{n}")
    if not draft.driver:
        raise Refusal(message("Nothing was weighed"), "weighings", remedy=message("Weigh one thing"), code="empty")
    body = {
        "format": FORMAT,
        "version": FORMAT_VERSION,
        "name": name.strip(),
        "family": "other",
        "driver": draft.driver,
        "vessels": [{"id": key, "name": called} for key, called in draft.vessels.items()],
        "steps": draft.steps,
    }
    for step in draft.steps:
        if step["id"] in draft.out_g and step["verb"] == Strain.verb and "hold_g_g" not in step:
            _fit_sieve(body, step, draft.out_g[step["id"]], materials or {})
    return body
