"""The JSON Schema of the spec file, made from the declarations of the verbs."""

from __future__ import annotations

from typing import get_args

from ..base.answer_schema import Schema
from ..base.units import LOCALES
from ..chemistry.substances import SUBSTANCES
from ..materials.label import FIGURES_OF_LABEL, PER
from ..operations.amounts import Basis, DosedBy, PercentBasis, Reaching, TargetProperty
from ..operations.catalogue import VERBS
from ..operations.step import ChoiceParam, FlagParam, NumberParam, Param, RangeParam
from .json_form import MOST_NOTE
from .object_reader import MOST_TEXT


def _ref(name: str) -> Schema:
    return {"$ref": f"#/$defs/{name}"}


def _object(description: str, required: list[str], properties: Schema) -> Schema:
    return {"description": description, "type": "object", "required": required, "properties": properties}


def _string(description: str = "") -> Schema:
    return {"type": "string", **({"description": description} if description else {})}


_TEXT = {"type": "string", "maxLength": MOST_TEXT}
_STRINGS = {"type": "array", "items": {"type": "string"}}


def _param(param: Param, verbs: str) -> Schema:
    if isinstance(param, NumberParam):
        return {**_ref("SpecNumber"), "description": f"{verbs}: {param.unit}, {param.words}"}
    if isinstance(param, RangeParam):
        return {**_ref("SpecRange"), "description": f"{verbs}: {param.unit}"}
    if isinstance(param, ChoiceParam):
        return {"enum": list(param.allowed), "description": verbs}
    return {"type": "boolean", "description": verbs} if isinstance(param, FlagParam) else {**_TEXT, "description": verbs}


def _step_properties() -> Schema:
    """Returns every parameter with the verbs that have it; the first of them decides its bounds, choices of one name are joined."""
    found: Schema = {}
    owners: dict[str, list[str]] = {}
    for verb, kind in VERBS.items():
        for name in kind.params():
            owners.setdefault(name, []).append(verb)
    for name, verbs in owners.items():
        params = [VERBS[verb].params()[name] for verb in verbs]
        if isinstance(params[0], ChoiceParam):
            allowed = dict.fromkeys(word for param in params if isinstance(param, ChoiceParam) for word in param.allowed)
            found[name] = {"enum": list(allowed), "description": ", ".join(verbs)}
        else:
            found[name] = _param(params[0], ", ".join(verbs))
    return found


_ONLY = _string("the alternative it belongs to, as group/choice; in the spec only when that is chosen")


def _step() -> Schema:
    lines = [verb for verb, kind in VERBS.items() if kind.takes_lines]
    shared = {
        "id": _string(),
        "verb": {"enum": list(VERBS)},
        "vessel": _string(),
        "note": {**_TEXT, "description": "how to do it"},
        "check": {**_TEXT, "description": "when it is done, in the maker's words"},
        "lines": {"type": "array", "items": _ref("SpecLine"), "description": ", ".join(lines)},
        "into": _string("the vessel that takes what comes of the step, when it is another one"),
        "by_product": _string("the name under which what leaves is kept; later steps and other specs can use it"),
        "gear": {**_STRINGS, "description": "what it takes, else the verb's usual gear"},
        "people": {"type": "integer", "minimum": 1, "maximum": 20},
        "keep_sample": {"type": "boolean", "description": "whether a sample is set aside after this step"},
        "hands_on_min": {**_ref("SpecNumber"), "description": "the maker's own minutes, else the verb's usual ones"},
        "only": _ONLY,
    }
    return _object(
        "one step in one vessel; the parameters below belong to the verbs named with them", ["id", "verb"], {**shared, **_step_properties()}
    )


def _amounts() -> Schema:
    number = _ref("SpecNumber")
    return {
        "SpecAmount": {"oneOf": [_ref(f"{kind}Amount") for kind in ("Fixed", "Ratio", "Percent", "Target", "State", "All")]},
        "FixedAmount": _object(
            "so much of it; exactly one of mass_g, volume_ml, count, written",
            ["kind"],
            {
                "kind": {"const": "fixed"},
                "mass_g": _ref("SpecRange"),
                "volume_ml": _ref("SpecRange"),
                "count": _ref("SpecRange"),
                "written": _string("as people write it: 1 1/2 cups"),
                "scales": {"type": "boolean", "description": "false: the same in every batch size"},
                "to_taste": {"type": "boolean", "description": "the maker settles it within the range"},
                "assumed": {"type": "boolean", "description": "nobody wrote it: the usual amount of its kind"},
            },
        ),
        "RatioAmount": _object(
            "parts of this to one part of another line, or of a vessel as the step begins",
            ["kind", "to", "ratio"],
            {
                "kind": {"const": "ratio"},
                "to": {"type": "object", "properties": {"line": _string(), "vessel": _string()}, "minProperties": 1, "maxProperties": 1},
                "basis": {"enum": list(get_args(Basis))},
                "ratio": number,
            },
        ),
        "PercentAmount": _object(
            "percent of the vessel as the step begins",
            ["kind", "percent"],
            {"kind": {"const": "percent"}, "percent": number, "basis": {"enum": list(get_args(PercentBasis))}},
        ),
        "TargetAmount": _object(
            "as much as brings the vessel to the value; dosed by sum (exact amount) or by reading at the time",
            ["kind", "property", "value"],
            {"kind": {"const": "target"}, "property": _ref("SpecProperty"), "value": number, "dosed": {"enum": list(get_args(DosedBy))}},
        ),
        "StateAmount": _object(
            "a state to reach: cover the solids, or top up to the vessel's line",
            ["kind", "state"],
            {"kind": {"const": "state"}, "state": {"enum": list(get_args(Reaching))}, "line_ml": number},
        ),
        "AllAmount": _object(
            "all of a by-product or vessel of this spec, or a share of it", ["kind"], {"kind": {"const": "all"}, "share": number}
        ),
    }


_SHARES: Schema = {"type": "object", "additionalProperties": {"type": "number"}}


def _known_by_label() -> Schema:
    return _object(
        "what a nutrition label declares; strength in % vol, acid as citric; splits are shares by mass that add to 1",
        ["by"],
        {
            "by": {"const": "label"},
            "per": {"enum": list(PER)},
            **{name: _ref("SpecRange") for name in FIGURES_OF_LABEL},
            "acid_split": _SHARES,
            "sugar_split": _SHARES,
            "source": _string(),
        },
    )


def _compositions() -> Schema:
    return {
        "SpecMakeup": {"oneOf": [_ref(f"MakeupBy{kind}") for kind in ("Substance", "Label", "Reading", "Parts", "Spec")]},
        "MakeupBySubstance": _object(
            f"grams per 100 g; water is what is left; substances are {', '.join(SUBSTANCES)}",
            ["by", "g_per_100g"],
            {
                "by": {"const": "substance"},
                "g_per_100g": {"type": "object", "additionalProperties": _ref("SpecRange")},
                "source": _string(),
            },
        ),
        "MakeupByLabel": _known_by_label(),
        "MakeupByReading": _object(
            "a juice by what instruments show; splits are shares by mass that add to 1",
            ["by", "brix_reading", "acid_g_100ml"],
            {
                "by": {"const": "reading"},
                "brix_reading": _ref("SpecRange"),
                "acid_g_100ml": _ref("SpecRange"),
                "acid_split": _SHARES,
                "sugar_split": _SHARES,
                "potassium_mg_100g": {"type": "number"},
                "ph": {**_ref("SpecNumber"), "description": "as read; the cations then follow from it and the titration"},
                "pectin_g_100g": _ref("SpecNumber"),
                "other_solids_share": _ref("SpecRange"),
                "source": _string(),
                "brix_read": {"type": "boolean"},
                "acid_read": {"type": "boolean"},
            },
        ),
        "MakeupByParts": _object(
            "a whole fruit or egg: each part with its share by weight and its own makeup; flesh is what is left",
            ["by", "parts"],
            {
                "by": {"const": "parts"},
                "parts": {
                    "type": "object",
                    "additionalProperties": _object("one part", ["makeup"], {"share": _ref("SpecRange"), "makeup": _ref("SpecMakeup")}),
                },
                "source": _string(),
            },
        ),
        "MakeupBySpec": _object(
            "what another spec makes: its product, or a by-product by name; the spec embedded, or its id where it stands beside",
            ["by", "spec"],
            {"by": {"const": "spec"}, "spec": {"type": ["object", "string"]}, "output": _string()},
        ),
    }


def _material() -> Schema:
    ranges = {
        name: _ref("SpecRange")
        for name in ("hold_g_g", "bulk_density_g_ml", "piece_g", "drawn_g_g", "draw_hours", "browns_min", "keeps_days")
    }
    hue = _object(
        "the colour that it gives, by pH",
        ["points"],
        {
            "points": {
                "type": "array",
                "items": _object(
                    "one point",
                    ["ph", "colour"],
                    {"ph": {"type": "number"}, "colour": {"type": "string", "pattern": "^#[0-9a-fA-F]{6}$"}, "word": _string()},
                ),
            },
            "strength": {"type": "number"},
            "minutes": {"type": "number"},
        },
    )
    return _object(
        "what a thing is made of; with a makeup by spec, the rest is worked out unless given",
        ["makeup"],
        {
            "name": _string(),
            "kind": _string(),
            "makeup": _ref("SpecMakeup"),
            "price_per_kg": {"type": ["string", "null"], "description": "decimal, in the house's currency"},
            "allergens": {**_STRINGS, "description": "left out: nobody has said"},
            "allergens_unknown": {**_STRINGS, "description": "names of what went in of which nobody has said what it holds"},
            "cautions": _STRINGS,
            "keeping_class": {"type": ["string", "null"]},
            "defined": {
                "type": "boolean",
                "description": "its composition follows from its name and label, so that what is weighed of it is known",
            },
            "use_by": _string("last day of the very lot, as 2026-11-25"),
            **ranges,
            "contains_mg_g": {
                "type": "object",
                "description": "restricted substances, mg per gram",
                "additionalProperties": _ref("SpecRange"),
            },
            "pieces": {"type": "boolean", "description": "keeps its inside to itself until a step draws it out"},
            "vegan": {"type": "boolean"},
            "heat_sensitive": {"type": "boolean"},
            "hue": hue,
            "delivery": _string(),
            "colour": _string(),
            "note": _string(),
        },
    )


def _file() -> Schema:
    """Returns the schema of the file itself."""
    number = _ref("SpecNumber")
    return _object(
        "A way to make one house ingredient. Units stand in the names: _g grams, _ml millilitres at 20 °C, _c degrees Celsius, minutes minutes. Numbers may be written as text while a draft is typed; a published version holds what was typed.",
        ["format", "version", "name", "steps"],
        {
            "format": {"const": "ulsek.spec"},
            "version": {"const": 1},
            "id": _string("stable, unique among the specs of a house"),
            "name": _TEXT,
            "family": _string(),
            "note": {"type": "string", "maxLength": MOST_NOTE},
            "source": {**_TEXT, "description": "where it comes from"},
            "permission": {**_TEXT, "description": "by whose leave it is used"},
            "served_in": _object(
                "the drink that it is for: so much of it in a drink of this size, with or without alcohol where that is known",
                ["dose_ml", "drink_ml"],
                {"dose_ml": number, "drink_ml": number, "alcoholic": {"type": "boolean"}},
            ),
            "options": {"type": "array", "items": _ref("SpecOptions"), "description": "groups of alternatives"},
            **_of_a_read_text(),
            "base": {"type": "string", "description": "id of the spec that this is a variant of"},
            "locale": {"enum": sorted(LOCALES), "description": "size of cups, spoons and fluid ounces"},
            "driver": _string("id of the line that is weighed first and sets the batch"),
            "serve_ml": number,
            "vessels": {"type": "array", "items": _ref("SpecVessel")},
            "goals": {"type": "array", "items": _ref("SpecGoal")},
            "steps": {"type": "array", "items": _ref("SpecStep")},
            "materials": {
                "type": "object",
                "description": "compositions embedded on export; inside a house the lines refer to its materials",
                "additionalProperties": _ref("SpecMaterial"),
            },
        },
    )


def _of_a_read_text() -> Schema:
    """Returns the schemas of what a spec keeps of the text that it was read from: open readings and claims."""
    return {
        "doubts": {
            "type": "array",
            "description": "readings of a pasted recipe that nobody has settled yet",
            "items": _object(
                "one of them",
                ["at", "text", "question"],
                {
                    "at": _string("id of the line or step"),
                    "code": _string(),
                    "text": _TEXT,
                    "question": _string(),
                    "answers": {
                        "type": "array",
                        "description": "answers that settle it",
                        "items": _object(
                            "its words, and what it changes in lines and steps",
                            ["word"],
                            {"word": _string(), "changes": {"type": "array", "items": {"type": "object"}}},
                        ),
                    },
                },
            ),
        },
        "claims": {
            "type": "array",
            "description": "what a pasted recipe says of its yield, its keeping and its use; it changes nothing",
            "items": _object(
                "one of them",
                ["kind", "text"],
                {
                    "kind": {"enum": ["yield", "keeps", "serve", "strength"]},
                    "text": _TEXT,
                    "amount": _ref("SpecRange"),
                    "unit": _string("of the amount: mL, g, days"),
                },
            ),
        },
    }


def _parts() -> Schema:
    """Returns the schemas of the parts of a spec: numbers, vessels, goals, lines, options."""
    number = _ref("SpecNumber")
    return {
        "SpecNumber": {"description": "a number, or its text as typed", "anyOf": [{"type": "number"}, {"type": "string"}]},
        "SpecRange": {
            "description": "exact as a plain number, else the best value with its 5 and 95 % points",
            "anyOf": [
                {"type": "number"},
                {"type": "string"},
                {
                    "type": "object",
                    "required": ["value", "low", "high"],
                    "properties": {name: {"type": "number"} for name in ("value", "low", "high")},
                },
            ],
        },
        "SpecProperty": {"enum": list(get_args(TargetProperty))},
        "SpecVessel": {
            "type": "object",
            "required": ["id"],
            "properties": {"id": _string(), "name": _string(), "capacity_ml": number, "tare_g": number, "fill_line_ml": number},
        },
        "SpecGoal": {
            "type": "object",
            "required": ["property", "value", "tolerance"],
            "properties": {"property": _ref("SpecProperty"), "value": number, "tolerance": number},
        },
        "SpecLine": _object(
            "one thing that goes in",
            ["id", "material"],
            {
                "id": _string(),
                "material": _string("a material's key, or by_product:NAME or vessel:ID for what this spec made itself"),
                "amount": _ref("SpecAmount"),
                "note": _string("what was written where it was read from"),
                "only": _ONLY,
            },
        ),
        "SpecOptions": _object(
            "alternatives for one part of a spec; one of them is chosen",
            ["id", "choices"],
            {
                "id": _string(),
                "name": _string(),
                "choices": {"type": "array", "items": _ref("SpecChoice")},
                "chosen": _string("id of a choice, else the first"),
            },
        ),
        "SpecChoice": _object(
            "one alternative", ["id"], {"id": _string(), "name": _string(), "note": {**_TEXT, "description": "what it costs and gains"}}
        ),
    }


def spec_schema() -> Schema:
    """Returns the JSON Schema (2020-12) of the spec file."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": "ulsek.spec.v1",
        "title": "Ulsek spec file, version 1",
        **_file(),
        "$defs": {**_parts(), **_amounts(), "SpecStep": _step(), "SpecMaterial": _material(), **_compositions()},
    }
