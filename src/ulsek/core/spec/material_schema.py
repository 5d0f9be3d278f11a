"""The JSON Schema of a material in the spec file."""

from __future__ import annotations

from ..base.answer_schema import Schema
from ..chemistry.substances import SUBSTANCES
from ..materials.label import FIGURES_OF_LABEL, PER
from .schema_parts import STRINGS, object_of, ref, text_of

_SHARES: Schema = {"type": "object", "additionalProperties": {"type": "number"}}


def _known_by_label() -> Schema:
    return object_of(
        "what a nutrition label declares; strength in % vol, acid as citric; splits are shares by mass that add to 1",
        ["by"],
        {
            "by": {"const": "label"},
            "per": {"enum": list(PER)},
            **{name: ref("SpecRange") for name in FIGURES_OF_LABEL},
            "acid_split": _SHARES,
            "sugar_split": _SHARES,
            "source": text_of(),
        },
    )


def compositions() -> Schema:
    """Returns the definitions of every way to say what is in a material, by name."""
    return {
        "SpecMakeup": {"oneOf": [ref(f"MakeupBy{kind}") for kind in ("Substance", "Label", "Reading", "Parts", "Spec")]},
        "MakeupBySubstance": object_of(
            f"grams per 100 g; water is what is left; substances are {', '.join(SUBSTANCES)}",
            ["by", "g_per_100g"],
            {
                "by": {"const": "substance"},
                "g_per_100g": {"type": "object", "additionalProperties": ref("SpecRange")},
                "source": text_of(),
            },
        ),
        "MakeupByLabel": _known_by_label(),
        "MakeupByReading": object_of(
            "a juice by what instruments show; splits are shares by mass that add to 1",
            ["by", "brix_reading", "acid_g_100ml"],
            {
                "by": {"const": "reading"},
                "brix_reading": ref("SpecRange"),
                "acid_g_100ml": ref("SpecRange"),
                "acid_split": _SHARES,
                "sugar_split": _SHARES,
                "potassium_mg_100g": {"type": "number"},
                "ph": {**ref("SpecNumber"), "description": "as read; the cations then follow from it and the titration"},
                "pectin_g_100g": ref("SpecNumber"),
                "other_solids_share": ref("SpecRange"),
                "source": text_of(),
                "brix_read": {"type": "boolean"},
                "acid_read": {"type": "boolean"},
            },
        ),
        "MakeupByParts": object_of(
            "a whole fruit or egg: each part with its share by weight and its own makeup; flesh is what is left",
            ["by", "parts"],
            {
                "by": {"const": "parts"},
                "parts": {
                    "type": "object",
                    "additionalProperties": object_of("one part", ["makeup"], {"share": ref("SpecRange"), "makeup": ref("SpecMakeup")}),
                },
                "source": text_of(),
            },
        ),
        "MakeupBySpec": object_of(
            "what another spec makes: its product, or a by-product by name; the spec embedded, or its id where it stands beside",
            ["by", "spec"],
            {"by": {"const": "spec"}, "spec": {"type": ["object", "string"]}, "output": text_of()},
        ),
    }


def material() -> Schema:
    """Returns the definition of a material."""
    ranges = {
        name: ref("SpecRange")
        for name in ("hold_g_g", "bulk_density_g_ml", "piece_g", "drawn_g_g", "draw_hours", "browns_min", "keeps_days")
    }
    hue = object_of(
        "the colour that it gives, by pH",
        ["points"],
        {
            "points": {
                "type": "array",
                "items": object_of(
                    "one point",
                    ["ph", "colour"],
                    {"ph": {"type": "number"}, "colour": {"type": "string", "pattern": "^#[0-9a-fA-F]{6}$"}, "word": text_of()},
                ),
            },
            "strength": {"type": "number"},
            "minutes": {"type": "number"},
        },
    )
    return object_of(
        "what a thing is made of; with a makeup by spec, the rest is worked out unless given",
        ["makeup"],
        {
            "name": text_of(),
            "kind": text_of(),
            "makeup": ref("SpecMakeup"),
            "price_per_kg": {"type": ["string", "null"], "description": "decimal, in the house's currency"},
            "allergens": {**STRINGS, "description": "left out: nobody has said"},
            "allergens_unknown": {
                "description": "true, or the names of what went in of which nobody has said what it holds",
                "anyOf": [{"type": "boolean"}, STRINGS],
            },
            "cautions": STRINGS,
            "keeping_class": {"type": ["string", "null"]},
            "defined": {
                "type": "boolean",
                "description": "its composition follows from its name and label, so that what is weighed of it is known",
            },
            "use_by": text_of("last day of the very lot, as 2026-11-25"),
            **ranges,
            "contains_mg_g": {
                "type": "object",
                "description": "restricted substances, mg per gram",
                "additionalProperties": ref("SpecRange"),
            },
            "pieces": {"type": "boolean", "description": "keeps its inside to itself until a step draws it out"},
            "vegan": {"type": "boolean"},
            "heat_sensitive": {"type": "boolean"},
            "hue": hue,
            "delivery": text_of(),
            "colour": text_of(),
            "note": text_of(),
        },
    )
