"""The strength that is written beside a material: which of those in Stores is meant, or a spirit of the draft's own at that strength."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from ..base.refusals import Refusal
from ..properties.alcohol import mass_fraction_from_abv
from ..written.quantities import Quantity
from ..written.tokens import Token
from .material_names import Named
from .text_reading import TextReading

_LEAST_ABV, _MOST_ABV = 20.0, 97.0
"""Strengths between which a percentage beside a spirit is its own [% vol]."""
_SAME = 1.0
"""Largest difference of a strength from that in Stores at which nobody would tell them apart [% vol]."""
_PROOF = 2.0
"""Degrees of proof in a per cent by volume [-]. Source: 27 CFR 5.1 (United States)."""


def at_its_strength(reading: TextReading, named: Named, tokens: Sequence[Token], amount: Quantity) -> Named:
    """Returns what is named at the strength that tokens say: “neutral spirit 60 %” is one in Stores, “white rum 57 %” a material of the draft, kept in `own`.

    `amount` is how much of it goes in: a percentage that is the amount is no strength.
    """
    if amount.kind == "percent":
        return named
    known = reading.names.known
    base = re.sub(r"_\d+$", "", str(named.key))
    of_kind = "neutral_spirit" if named.vague == "spirit" else base
    said = [token.number.value for token, mark in pairwise(tokens) if token.number and mark.plain in reading.words.words["percent"]]
    # “Alcol a 60°”, in a language whose recipes say no °F
    said += [token.number.value for token, mark in pairwise(tokens) if token.number and mark.plain in reading.words.words["degrees"]]
    sold = next((key for value in said if (key := f"{of_kind}_{value:g}") in known), None)
    if sold is not None:
        return replace(named, key=sold)
    said += [
        token.number.value / _PROOF for token, mark in pairwise(tokens) if token.number and mark.plain in reading.words.words["proof_words"]
    ]
    abv = next((value for value in said if _LEAST_ABV <= value <= _MOST_ABV), None)
    return _own_spirit(reading, named, of_kind, abv) if abv is not None else named


def _own_spirit(reading: TextReading, named: Named, base: str, abv: float) -> Named:
    """Returns a spirit of the draft's own at a strength [% vol], made from the known one; `named` if that is no spirit, or sold at this strength."""
    key = named.key or next((key for key in reading.names.known if key.startswith(f"{base}_")), "")
    material = reading.material(key) if key in reading.names.known else None
    if material is None or material.kind != "spirit":
        return named
    label = re.search(r"(\d+(?:\.\d+)?)\s*%", material.name)
    if label is None or abs(float(label[1]) - abv) <= _SAME:
        return named
    made = f"{base}_{abv:g}".replace(".", "_")
    try:
        ethanol = 100.0 * mass_fraction_from_abv(abv)
    except Refusal:
        return named
    reading.own[made] = {
        "name": f"{material.name.split(',')[0]}, {abv:g} %",
        "kind": "spirit",
        "makeup": {
            "by": "substance",
            "g_per_100g": {"ethanol": round(ethanol, 3)},
            "source": "the strength that the recipe says, OIML R 22; check the bottle's own",
        },
    }
    return replace(named, key=made)
