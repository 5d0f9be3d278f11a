"""Colour: the colour to expect, from the materials that carry one, by pH and time."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

from ..materials.material import Hue
from .flow_values import Flow, Inputs


@dataclass(frozen=True, slots=True)
class ExpectedColour:
    """The colour to expect, the word of the material that contributes most, and the materials."""

    colour: str
    word: str
    material: str


def _rgb(colour: str) -> tuple[float, float, float]:
    return (int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16))


def hue_at(hue: Hue, ph: float) -> tuple[tuple[float, float, float], str]:
    """Returns (red, green, blue [0 to 255], word) of a hue at `ph`: linear between its points, the word of the nearer point. Source: the material's own points."""
    points = hue.points
    if ph <= points[0][0]:
        return _rgb(points[0][1]), points[0][2]
    for (p0, c0, w0), (p1, c1, w1) in itertools.pairwise(points):
        if ph <= p1:
            share = (ph - p0) / (p1 - p0) if p1 > p0 else 0.0
            first, last = _rgb(c0), _rgb(c1)
            mixed = tuple(a + share * (b - a) for a, b in zip(first, last, strict=True))
            return (mixed[0], mixed[1], mixed[2]), w0 if share < 0.5 else w1
    return _rgb(points[-1][1]), points[-1][2]


def expected_colour(inputs: Inputs, flow: Flow, ph: float) -> ExpectedColour | None:
    """Returns the colour of the finished vessel at `ph`: each hue weighted by mass × strength × extracted share, 1 − exp(−t/its minutes).

    None if no material carries a colour. Error: a word's worth; heat, light and iron change it. Source: house experience.
    """
    ends = max((step.ends_min for step in flow.steps), default=0.0)
    weighed: list[tuple[float, tuple[float, float, float], str, str]] = []
    for step in flow.steps:
        for added in step.added:
            material = inputs.materials.get(added.material)
            if material is None or material.hue is None:
                continue
            colour, word = hue_at(material.hue, ph)
            # Colour is extracted like flavour: by a first-order approach with its own time.
            out = 1.0 - math.exp(-max(0.0, ends - step.begins_min) / material.hue.minutes)
            weighed.append((added.mass_g * material.hue.strength * out, colour, word, material.name))
    total = math.fsum(item[0] for item in weighed)
    if total <= 0:
        return None
    mixed = [math.fsum(weight * colour[i] for weight, colour, _, _ in weighed) / total for i in range(3)]
    # One word for the whole: that of the material that colours it most.
    most = max(weighed)
    return ExpectedColour("#{:02x}{:02x}{:02x}".format(*(min(255, max(0, round(part))) for part in mixed)), most[2], most[3])
