"""The JSON Schema of the spec file, made from the declarations of the verbs."""

from __future__ import annotations

from typing import get_args

from ..base.answer_schema import Schema
from ..base.units import LOCALES
from ..operations.amounts import Basis, DosedBy, PercentBasis, Reaching, TargetProperty
from ..operations.catalogue import VERBS
from ..operations.step import ChoiceParam, FlagParam, NumberParam, Param, RangeParam
from .json_form import MOST_NOTE
from .material_schema import compositions, material
from .object_reader import MOST_TEXT
from .schema_parts import STRINGS, object_of, ref, text_of

_TEXT = {"type": "string", "maxLength": MOST_TEXT}


def _param(param: Param, verbs: str) -> Schema:
    if isinstance(param, NumberParam):
        return {**ref("SpecNumber"), "description": f"{verbs}: {param.unit}, {param.words}"}
    if isinstance(param, RangeParam):
        return {**ref("SpecRange"), "description": f"{verbs}: {param.unit}"}
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


_ONLY = text_of("the alternative it belongs to, as group/choice; in the spec only when that is chosen")


def _step() -> Schema:
    lines = [verb for verb, kind in VERBS.items() if kind.takes_lines]
    shared = {
        "id": text_of(),
        "verb": {"enum": list(VERBS)},
        "vessel": text_of(),
        "note": {**_TEXT, "description": "how to do it"},
        "check": {**_TEXT, "description": "when it is done, in the maker's words"},
        "lines": {"type": "array", "items": ref("SpecLine"), "description": ", ".join(lines)},
        "into": text_of("the vessel that takes what comes of the step, when it is another one"),
        "by_product": text_of("the name under which what leaves is kept; later steps and other specs can use it"),
        "gear": {**STRINGS, "description": "what it takes, else the verb's usual gear"},
        "people": {"type": "integer", "minimum": 1, "maximum": 20},
        "keep_sample": {"type": "boolean", "description": "whether a sample is set aside after this step"},
        "hands_on_min": {**ref("SpecNumber"), "description": "the maker's own minutes, else the verb's usual ones"},
        "only": _ONLY,
    }
    return object_of(
        "one step in one vessel; the parameters below belong to the verbs named with them", ["id", "verb"], {**shared, **_step_properties()}
    )


def _amounts() -> Schema:
    number = ref("SpecNumber")
    return {
        "SpecAmount": {"oneOf": [ref(f"{kind}Amount") for kind in ("Fixed", "Ratio", "Percent", "Target", "State", "All")]},
        "FixedAmount": object_of(
            "so much of it; exactly one of mass_g, volume_ml, count, written",
            ["kind"],
            {
                "kind": {"const": "fixed"},
                "mass_g": ref("SpecRange"),
                "volume_ml": ref("SpecRange"),
                "count": ref("SpecRange"),
                "written": text_of("as people write it: 1 1/2 cups"),
                "scales": {"type": "boolean", "description": "false: the same in every batch size"},
                "to_taste": {"type": "boolean", "description": "the maker settles it within the range"},
                "assumed": {"type": "boolean", "description": "nobody wrote it: the usual amount of its kind"},
            },
        ),
        "RatioAmount": object_of(
            "parts of this to one part of another line, or of a vessel as the step begins",
            ["kind", "to", "ratio"],
            {
                "kind": {"const": "ratio"},
                "to": {"type": "object", "properties": {"line": text_of(), "vessel": text_of()}, "minProperties": 1, "maxProperties": 1},
                "basis": {"enum": list(get_args(Basis))},
                "ratio": number,
            },
        ),
        "PercentAmount": object_of(
            "percent of the vessel as the step begins",
            ["kind", "percent"],
            {"kind": {"const": "percent"}, "percent": number, "basis": {"enum": list(get_args(PercentBasis))}},
        ),
        "TargetAmount": object_of(
            "as much as brings the vessel to the value; dosed by sum (exact amount) or by reading at the time",
            ["kind", "property", "value"],
            {"kind": {"const": "target"}, "property": ref("SpecProperty"), "value": number, "dosed": {"enum": list(get_args(DosedBy))}},
        ),
        "StateAmount": object_of(
            "a state to reach: cover the solids, or top up to the vessel's line",
            ["kind", "state"],
            {"kind": {"const": "state"}, "state": {"enum": list(get_args(Reaching))}, "line_ml": number},
        ),
        "AllAmount": object_of(
            "all of a by-product or vessel of this spec, or a share of it", ["kind"], {"kind": {"const": "all"}, "share": number}
        ),
    }


def _file() -> Schema:
    """Returns the schema of the file itself."""
    number = ref("SpecNumber")
    return object_of(
        "A way to make one house ingredient. Units stand in the names: _g grams, _ml millilitres at 20 °C, _c degrees Celsius, minutes minutes. Numbers may be written as text while a draft is typed; a published version holds what was typed.",
        ["format", "version", "name", "steps"],
        {
            "format": {"const": "ulsek.spec"},
            "version": {"const": 1},
            "id": text_of("stable, unique among the specs of a house"),
            "name": _TEXT,
            "family": text_of(),
            "note": {"type": "string", "maxLength": MOST_NOTE},
            "source": {**_TEXT, "description": "where it comes from"},
            "permission": {**_TEXT, "description": "by whose leave it is used"},
            "served_in": object_of(
                "the drink that it is for: so much of it in a drink of this size, with or without alcohol where that is known",
                ["dose_ml", "drink_ml"],
                {"dose_ml": number, "drink_ml": number, "alcoholic": {"type": "boolean"}},
            ),
            "options": {"type": "array", "items": ref("SpecOptions"), "description": "groups of alternatives"},
            **_of_a_read_text(),
            "base": {"type": "string", "description": "id of the spec that this is a variant of"},
            "locale": {"enum": sorted(LOCALES), "description": "size of cups, spoons and fluid ounces"},
            "driver": text_of("id of the line that is weighed first and sets the batch"),
            "serve_ml": number,
            "vessels": {"type": "array", "items": ref("SpecVessel")},
            "goals": {"type": "array", "items": ref("SpecGoal")},
            "steps": {"type": "array", "items": ref("SpecStep")},
            "materials": {
                "type": "object",
                "description": "compositions embedded on export; inside a house the lines refer to its materials",
                "additionalProperties": ref("SpecMaterial"),
            },
        },
    )


def _of_a_read_text() -> Schema:
    """Returns the schemas of what a spec keeps of the text that it was read from: open readings and claims."""
    return {
        "doubts": {
            "type": "array",
            "description": "readings of a pasted recipe that nobody has settled yet",
            "items": object_of(
                "one of them",
                ["at", "text", "question"],
                {
                    "at": text_of("id of the line or step"),
                    "code": text_of(),
                    "text": _TEXT,
                    "question": text_of(),
                    "answers": {
                        "type": "array",
                        "description": "answers that settle it",
                        "items": object_of(
                            "its words, and what it changes in lines and steps",
                            ["word"],
                            {"word": text_of(), "changes": {"type": "array", "items": {"type": "object"}}},
                        ),
                    },
                },
            ),
        },
        "claims": {
            "type": "array",
            "description": "what a pasted recipe says of its yield, its keeping and its use; it changes nothing",
            "items": object_of(
                "one of them",
                ["kind", "text"],
                {
                    "kind": {"enum": ["yield", "keeps", "serve", "strength"]},
                    "text": _TEXT,
                    "amount": ref("SpecRange"),
                    "unit": text_of("of the amount: mL, g, days"),
                },
            ),
        },
    }


def _parts() -> Schema:
    """Returns the schemas of the parts of a spec: numbers, vessels, goals, lines, options."""
    number = ref("SpecNumber")
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
            "properties": {"id": text_of(), "name": text_of(), "capacity_ml": number, "tare_g": number, "fill_line_ml": number},
        },
        "SpecGoal": {
            "type": "object",
            "required": ["property", "value", "tolerance"],
            "properties": {"property": ref("SpecProperty"), "value": number, "tolerance": number},
        },
        "SpecLine": object_of(
            "one thing that goes in",
            ["id", "material"],
            {
                "id": text_of(),
                "material": text_of("a material's key, or by_product:NAME or vessel:ID for what this spec made itself"),
                "amount": ref("SpecAmount"),
                "note": text_of("what was written where it was read from"),
                "only": _ONLY,
            },
        ),
        "SpecOptions": object_of(
            "alternatives for one part of a spec; one of them is chosen",
            ["id", "choices"],
            {
                "id": text_of(),
                "name": text_of(),
                "choices": {"type": "array", "items": ref("SpecChoice")},
                "chosen": text_of("id of a choice, else the first"),
            },
        ),
        "SpecChoice": object_of(
            "one alternative", ["id"], {"id": text_of(), "name": text_of(), "note": {**_TEXT, "description": "what it costs and gains"}}
        ),
    }


def spec_schema() -> Schema:
    """Returns the JSON Schema (2020-12) of the spec file."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": "ulsek.spec.v1",
        "title": "Ulsek spec file, version 1",
        **_file(),
        "$defs": {**_parts(), **_amounts(), "SpecStep": _step(), "SpecMaterial": material(), **compositions()},
    }
