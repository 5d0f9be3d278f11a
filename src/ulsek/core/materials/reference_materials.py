"""Typical materials of the compiled tables in `data/`: starting values, not facts about a delivery.

Each juice and sweetener has the table's low and high as its range and the table's confidence letter in its source. A reading takes their place.
"""

from __future__ import annotations

import csv
import json
from collections.abc import Iterator, Mapping
from functools import cache
from importlib.resources import files
from typing import Any

from ..base.answer import encode
from ..base.ranges import Range
from .softening import kind_of

_OTHER_ACID = {"quinic": "quinic_acid", "isocitric": "isocitric_acid", "oxalic": "oxalic_acid", "aconitic": "aconitic_acid"}
_CARRIERS = {
    "tamarind_pulp": "Tamarind block",
    "tamarind_water_1_to_4": "Tamarind water, 1 to 4",
    "coconut_water": "Coconut water",
    "sugarcane_juice": "Sugar cane juice",
    "ginger_root": "Ginger juice",
}
_CALLED = {
    "lime_persian": "Lime",
    "lime_key": "Key lime",
    "orange_sweet": "Orange",
    "orange_blood": "Blood orange",
    "orange_bitter": "Bitter orange",
    "grapefruit_white": "White grapefruit",
    "grapefruit_pink": "Pink grapefruit",
    "cherry_sour": "Sour cherry",
    "cherry_sweet": "Sweet cherry",
    "passion_fruit_purple": "Purple passion fruit",
    "passion_fruit_yellow": "Yellow passion fruit",
    "grape_labrusca": "Labrusca grape",
    "apple_braeburn": "Braeburn apple",
    "apple_bramley": "Bramley apple",
    "apple_cider_bittersweet": "Bittersweet cider apple",
    "apple_cox": "Cox apple",
    "apple_crab": "Crab apple",
    "apple_cripps_pink": "Cripps Pink apple",
    "apple_dessert_mixed": "Apple",
    "apple_fuji": "Fuji apple",
    "apple_gala": "Gala apple",
    "apple_golden_delicious": "Golden Delicious apple",
    "apple_granny_smith": "Granny Smith apple",
    "apple_mcintosh": "McIntosh apple",
    "muscovado_dark": "Dark muscovado",
    "muscovado_light": "Light muscovado",
    "brown_sugar_soft_light": "Soft light brown sugar",
}
"""What people call a thing, where the table's own word for it is turned round."""
_HEAVY_CAUTIONS = {
    "bergamot": "Who peels: bergamot oil on skin and then sun can burn: wear gloves.",
    "grapefruit_white": "Who drinks: grapefruit changes how some medicines work: tell guests who ask.",
    "grapefruit_pink": "Who drinks: grapefruit changes how some medicines work: tell guests who ask.",
    "pomelo": "Who drinks: pomelo changes how some medicines work, as grapefruit does: tell guests who ask.",
    "elderberry": "Who drinks: raw elderberry makes people ill: cook it through.",
    "rhubarb": "Who drinks: rhubarb holds oxalate; never use the leaves.",
    "sea_buckthorn": "",
}


_PECTIN_G_100G = {"very high": 0.8, "high": 0.5, "medium-high": 0.4, "medium": 0.3, "low-medium": 0.2, "low": 0.1}
"""Pectin of a juice by the table's word; rough, house experience."""
_OTHER_IS = {
    "glycerin": "glycerol",
    "erythritol": "erythritol",
    "xylitol": "xylitol",
    "sorbitol_70_syrup": "sorbitol",
    "isomalt": "isomalt",
    "allulose": "allulose",
    "glucose_syrup_DE42": "glucose_syrup_solids",
}
"""What the table's column of other carbohydrates and polyols is, where it is one substance."""
_DEFINED_SWEETENERS = (
    "white_sugar", "caster_sugar", "demerara", "turbinado", "glucose_syrup_DE42", "invert_syrup_full", "glycerin", "erythritol", "xylitol",
    "sorbitol_70_syrup", "isomalt", "dextrose_monohydrate", "fructose", "trehalose_dihydrate", "allulose",
)  # fmt: skip
"""Sweeteners whose composition follows from their name: refined sugars and polyols, by their usual specification."""
PEELER_TAKES = 0.63
"""Share of the rind's weight that a peeler takes off in strips; house experience, not a standard."""
_NOT_WHOLE = ("verjus", "damson", "celery")
"""Juices whose whole fruit is not described from the table: no piece, or described by hand."""
_PEEL = {
    "insolubles": {"value": 16, "low": 13, "high": 19},
    "pectin": {"value": 2.5, "low": 1.8, "high": 3.2},
    "other_solubles": {"value": 5, "low": 3, "high": 7},
    "sucrose": 2,
    "glucose": 1.5,
    "fructose": 1.5,
    "oil": {"value": 0.3, "low": 0.1, "high": 0.6},
}
_ZEST = {**_PEEL, "pectin": {"value": 1.5, "low": 1, "high": 2}, "oil": {"value": 2.2, "low": 1.2, "high": 3.2}}


SIZE_SPREAD = Range(1.0, 0.75, 1.3)
"""Mass of one fruit against the usual one: sizes of one variety in trade. House experience."""
_SKIN_SPREAD, _PIECE_SPREAD = Range(1.0, 0.65, 1.35), Range(1.0, 0.67, 1.4)
"""Skin that one person takes off against another, and a piece against the usual one where the table has no range. House experience."""
_OTHER_SOLIDS = {"value": 0.08, "low": 0.05, "high": 0.12}
"""Share of a juice's dissolved solids that are neither sugar, acid nor potassium. Compiled from food tables."""
_FLESH_SUGAR_SHARE = 0.3
"""Glucose, and fructose, of the flesh that is left after pressing, as a share of the juice's °Bx. House experience."""
_FLESH = {"insolubles": {"value": 10, "low": 6, "high": 14}, "pectin": {"value": 0.8, "low": 0.4, "high": 1.2}, "other_solubles": 1.5}
"""Flesh after pressing besides sugar [g per 100 g]; rough, food tables of pomace."""
_FLESH_HOLDS, _SKIN_HOLDS = {"value": 0.45, "low": 0.3, "high": 0.6}, {"value": 0.75, "low": 0.5, "high": 1.0}
"""Liquid that flesh and skins retain in a sieve [g/g]. House experience."""
_STRIPS_DRAW = {"drawn_g_g": {"value": 0.3, "low": 0.2, "high": 0.4}, "draw_hours": {"value": 6, "low": 3, "high": 12}}
"""Liquid that sugar draws from peel in strips [g per g of peel], and the time constant of it [h]. House experience."""
_STRIPS_OIL = {"value": 0.8, "low": 0.4, "high": 1.3}
"""Oil of peel in strips [g per 100 g]: zest with its pith. House experience."""
_DRY_PERCENT = 10.0
"""Moisture [%] below which a sweetener is dry and filled by the cup. House judgement."""
_CUP_ML = 236.6
"""US cup of the household tables [mL]. Source: definition."""


def _called(name: str) -> str:
    return _CALLED.get(name) or name.replace("_", " ").capitalize()


def _rows(name: str) -> Iterator[dict[str, str]]:
    text = (files("ulsek.core") / "data" / name).read_text(encoding="utf-8")
    yield from csv.DictReader(line for line in text.splitlines() if line and not line.startswith("#"))


def _range(low: str, typical: str, high: str) -> dict[str, float]:
    return {"value": float(typical), "low": float(low), "high": float(high)}


def _juice(row: dict[str, str]) -> dict[str, Any]:
    name = row["name"]
    other = _OTHER_ACID.get(row["other_acid"].split("/")[0], "citric_acid")
    # The table's fourth acid may be citric under another name: then both columns add up.
    acids = {"citric_acid": float(row["acid_citric"]), "malic_acid": float(row["acid_malic"]), "tartaric_acid": float(row["acid_tartaric"])}
    acids[other] = acids.get(other, 0.0) + float(row["acid_other"])
    sugars = {kind: float(row[f"sugar_{kind}"]) for kind in ("sucrose", "glucose", "fructose")}
    caution = _HEAVY_CAUTIONS.get(name, "")
    return {
        "name": _CARRIERS.get(name) or f"{_called(name)} juice",
        "kind": "juice",
        "makeup": {
            "by": "reading",
            "brix_reading": _range(row["brix_low"], row["brix_typ"], row["brix_high"]),
            "acid_g_100ml": _range(row["ta_low"], row["ta_typ"], row["ta_high"]),
            "acid_split": {key: share / sum(acids.values()) for key, share in acids.items() if share},
            "sugar_split": {key: share / sum(sugars.values()) for key, share in sugars.items() if share},
            "potassium_mg_100g": float(row["K_mg_100g"]),
            "other_solids_share": _OTHER_SOLIDS,
            "pectin_g_100g": next(
                (grams for word, grams in _PECTIN_G_100G.items() if row["pectin"].startswith(word)), _PECTIN_G_100G["low-medium"]
            ),
            "source": f"typical values compiled from food-science literature, confidence {row['confidence']}",
        },
        "cautions": [caution] if caution else [],
        "keeping_class": "fresh_juice",
        "heat_sensitive": True,
        "note": row["note"] or "",
    }


def _whole(row: dict[str, str], juice: Mapping[str, Any]) -> dict[str, Any]:
    """Returns the whole fruit of a juice: zest, peel and juice by the table; the rest is flesh, which stays after pressing."""
    source = f"typical values compiled from food-science literature, confidence {row['confidence']}"
    parts: dict[str, Any] = {"juice": {"share": float(row["yield_typ"]) / 100.0, "makeup": juice["makeup"]}}
    zest, peel = (float(row[name] or 0.0) / 100.0 for name in ("zest_pct", "peel_pct"))
    if zest:
        parts["zest"] = {"share": zest, "makeup": {"by": "substance", "g_per_100g": _ZEST, "source": source}}
    if peel > zest:
        parts["peel"] = {"share": peel - zest, "makeup": {"by": "substance", "g_per_100g": _PEEL, "source": source}}
    solids = float(row["brix_typ"])
    flesh = {
        **_FLESH,
        "glucose": _FLESH_SUGAR_SHARE * solids,
        "fructose": _FLESH_SUGAR_SHARE * solids,
    }
    # Flesh is what the other parts leave of the fruit, so it has no share of its own.
    parts["flesh"] = {"makeup": {"by": "substance", "g_per_100g": flesh, "source": source}}
    weight = float(row["fruit_g"])
    return {
        "name": f"{_called(row['name'])}, whole",
        "kind": "fruit",
        "makeup": {"by": "parts", "parts": parts, "source": source},
        "piece_g": encode(SIZE_SPREAD.times(weight)),
        "hold_g_g": _FLESH_HOLDS,
        "softens": kind_of(row["name"], "fruit", row["group"]),
        "cautions": juice["cautions"],
        "keeping_class": "fresh_juice",
        **({"browns_min": 20} if row["group"] in ("pome", "stone") else {}),
    }


def _skins(row: dict[str, str], juice: Mapping[str, Any]) -> dict[str, dict[str, Any]]:
    """Returns zest and peel in strips of a citrus as materials: its rind by the table's kind, the oil of the zest a factor of two."""
    name, source = row["name"], f"citrus rind, rough, confidence {row['confidence']}"
    shared = {
        "kind": "peel",
        "keeping_class": "fresh_juice",
        "cautions": juice["cautions"],
        "hold_g_g": _SKIN_HOLDS,
    }
    strips = {"pieces": True, **_STRIPS_DRAW}
    peel = {**_PEEL, "oil": _STRIPS_OIL}
    return {
        f"{name}_zest": {"name": f"{_called(name)} zest", "makeup": {"by": "substance", "g_per_100g": _ZEST, "source": source}, **shared},
        f"{name}_peel": {
            "name": f"{_called(name)} peel, in strips",
            "makeup": {"by": "substance", "g_per_100g": peel, "source": source},
            **shared,
            **strips,
        },
    }


def _range_of_share(share: float, moisture: dict[str, float]) -> dict[str, float]:
    """Returns the grams per 100 g of a solid that is `share` of all solids, with the range of the moisture."""
    return {
        "value": share * (100.0 - moisture["value"]),
        "low": share * (100.0 - moisture["high"]),
        "high": share * (100.0 - moisture["low"]),
    }


def _sweetener(row: dict[str, str]) -> dict[str, Any]:
    sugars = {key: float(row[key]) for key in ("sucrose", "glucose", "fructose")}
    sugars[_OTHER_IS.get(row["name"], "other_carbohydrate")] = float(row["other_carb_or_polyol"])
    parts = {key: share for key, share in sugars.items() if share} | (
        {"other_solubles": float(row["ash_other"])} if float(row["ash_other"]) else {}
    )
    moisture = _range(row["moisture_low"], row["moisture_typ"], row["moisture_high"])
    # The table's shares need not add up to one: they are shares of the solids.
    composition = {key: _range_of_share(share / sum(parts.values()), moisture) for key, share in parts.items()}
    cup = _range(row["cup_g_low"], row["cup_g_typ"], row["cup_g_high"])
    body: dict[str, Any] = {
        "name": _called(row["name"]),
        "kind": "sweetener",
        "makeup": {
            "by": "substance",
            "g_per_100g": composition,
            "source": f"typical values compiled from food tables, confidence {row['confidence']}",
        },
        "note": row["note"] or "",
    }
    if row["name"] in _DEFINED_SWEETENERS:
        body["defined"] = True
    if moisture["value"] < _DRY_PERCENT:
        body["bulk_density_g_ml"] = {key: grams / _CUP_ML for key, grams in cup.items()}
    if row["name"] == "honey":
        body["cautions"] = ["Who drinks: no honey for infants under one year."]
        body["vegan"] = False
    return body


def typical_materials() -> dict[str, dict[str, Any]]:
    """Returns every material that ships, in the open file form, by key."""
    found: dict[str, dict[str, Any]] = {}
    for row in _rows("juices.csv"):
        name = row["name"]
        juice = found[name if name in _CARRIERS else f"{name}_juice"] = _juice(row)
        if row["fruit_g"] and row["yield_typ"] and name not in (*_CARRIERS, *_NOT_WHOLE):
            found[name] = _whole(row, juice)
        if row["group"] == "citrus" and row["zest_pct"]:
            found |= _skins(row, juice)
    found |= {row["name"]: _sweetener(row) for row in _rows("sweeteners.csv")}
    found |= json.loads((files("ulsek.core") / "data" / "plain_materials.json").read_text(encoding="utf-8"))
    # A mass of one piece that the table of loose fill knows better stays.
    for key, each in _skins_of_one().items():
        found[key].setdefault("piece_g", each)
    for key, figures in loose_fill().items():
        if key in found:
            found[key] = {**figures, **found[key]}
    return found


def _skins_of_one() -> dict[str, dict[str, float]]:
    """Returns the zest and peel [g] that a person takes off one citrus, by their keys; the range is a factor of two. 7.7 g of zest from a lemon. Source:
    `data/juices.csv`.
    """
    found = {}
    for row in _rows("juices.csv"):
        if row["group"] == "citrus" and row["zest_pct"]:
            weight = float(row["fruit_g"]) / 100.0
            for what, grams in (("zest", weight * float(row["zest_pct"])), ("peel", weight * PEELER_TAKES * float(row["peel_pct"]))):
                found[f"{row['name']}_{what}"] = encode(_SKIN_SPREAD.times(grams))
    return found


def _loose(row: Mapping[str, str]) -> dict[str, dict[str, float]]:
    """Returns the bulk density [g/mL] and the mass of one piece [g] of a row, as far as it has them; a piece without a range has one of a third."""
    found = {}
    if row["cup"]:
        grams = _range(row["cup_low"], row["cup"], row["cup_high"])
        found["bulk_density_g_ml"] = {name: value / _CUP_ML for name, value in grams.items()}
    if row["piece"]:
        each = float(row["piece"])
        found["piece_g"] = _range(
            row["piece_low"] or str(_PIECE_SPREAD.low * each), row["piece"], row["piece_high"] or str(_PIECE_SPREAD.high * each)
        )
    return found


@cache
def loose_fill() -> Mapping[str, dict[str, dict[str, float]]]:
    """Returns bulk density [g/mL] and mass of one piece [g], with ranges, of what is not a liquid, by material or `kind:` and its kind. 148 g of blueberries
    fill a US cup.

    Error: the ranges. Source: household weights of food-composition tables, compiled, `data/loose_fill.csv`.
    """
    return {row["key"]: _loose(row) for row in _rows("loose_fill.csv")}


@cache
def defined_keys() -> frozenset[str]:
    """Returns the keys of the shipped materials whose composition follows from their name and label."""
    return frozenset(key for key, body in typical_materials().items() if body.get("defined"))


@cache
def typical_keys() -> frozenset[str]:
    """Returns the keys of all shipped materials."""
    return frozenset(typical_materials())
