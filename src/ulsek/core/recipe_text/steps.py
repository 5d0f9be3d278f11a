"""A step as people write it: which verb it begins with, which materials it names, its minutes and temperatures."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from ..base.messages import message
from ..base.refusals import Refusal
from ..base.vocabulary import aliases, plain
from ..materials.reference_materials import typical_materials
from ..operations.catalogue import VERBS
from ..safety.shipped_rules import kitchen_words

TEMPERATURE = re.compile(
    r"(?<!\d)(?P<value>\d+(?:[.,]\d+)?)\s*(?:°|º|degrees?|deg\.?)\s*(?P<unit>C|F|Celsius|Fahrenheit)?\b", re.IGNORECASE
)
_BARE = re.compile(r"\b(?P<value>\d{2,3})\s?(?P<unit>[CcFf])\b")
_MINUTES = re.compile(
    r"(?<!\d)(?P<low>\d+(?:[.,]\d+)?)\s*(?:(?:-|–|to)\s*(?P<high>\d+(?:[.,]\d+)?)\s*)?(?P<unit>min(?:ute)?s?|h(?:ou)?rs?|h|days?|weeks?)\b",
    re.IGNORECASE,
)
_AMOUNT = re.compile(r"(?<![\d.,])\d[\d.,\s]*(?:g|kg|mg|ml|cl|l|oz|lb|cups?|tsp|tbsp|fl oz|each)\b", re.IGNORECASE)
_PER_UNIT = {"m": 1.0, "h": 60.0, "d": 1440.0, "w": 10080.0}


def verb_of(text: str) -> tuple[str, str] | None:
    """(verb, what follows) where a sentence begins with a verb that Ulsek knows; the longest word wins."""
    words = plain(text).split()
    for length in (4, 3, 2, 1):
        candidate = " ".join(words[:length]).rstrip(".,:;")
        if len(words) >= length and candidate in aliases("verbs"):
            return aliases("verbs")[candidate], " ".join(words[length:])
    return None


_FOR_A_WHILE = re.compile(r"(?:it )?(?:for )?(?:\d|overnight|an? )")
_ALSO_NOUNS = frozenset(
    {"juice", "zest", "peel", "core", "rest", "label", "split", "freeze", "agar", "gelatin", "enzyme", "egg_raft", "clean"}
)
"""Verbs whose word may as well name a thing: after a comma they are read as the thing."""


def sentences(text: str) -> list[str]:
    """A line of the method taken apart: at full stops, at “then”, and at a comma or “and” that a verb follows."""
    found: list[str] = []
    for sentence in re.split(r"(?<=[.;])\s+|,?\s+then\s+", text):
        begins = 0
        for cut in re.finditer(r",\s+(?:and\s+)?|\s+and\s+", sentence):
            after = sentence[cut.end() :]
            verb, before = verb_of(after), verb_of(sentence[begins:])
            pressed = before is not None and before[0] == "strain" and verb is not None and verb[0] == "press"
            # “Break the gel and strain it”: what begins with no known verb goes on with the step before, and the straining is one of its own.
            if (
                verb is not None
                and (before is not None or found)
                and (verb[0] not in _ALSO_NOUNS or _FOR_A_WHILE.match(verb[1]))
                and not pressed
            ):
                found.append(sentence[begins : cut.start()])
                begins = cut.end()
        found.append(sentence[begins:])
    return found


_DESCRIBES = re.compile(
    r"\b(?:fresh|freshly|dried|squeezed|pressed|grated|chopped|sliced|diced|whole|ripe|raw|toasted|cold|hot|boiling|warm|filtered|granulated|of|the|juiced"
    r"|organic|pure|plain|fine|finely|coarse|coarsely|roughly|ground|crushed|cracked|peeled|loose|unsalted|unwaxed|strained|good|best|stalks?|sprigs?|pieces?)\b"
)


def material_meant(name: str, known: Mapping[str, Any]) -> tuple[str | None, str]:
    """The material that a name means: exactly, without what describes it, or by its last words; None when none is known. Beside it the words before
    those last ones, which may make it another thing: “sloe” of “sloe gin”.
    """
    bare = _DESCRIBES.sub(" ", re.sub(r"\([^)]*\)", " ", plain(name)))
    table = aliases("materials")
    for words in (bare.split(), re.sub(r"[,;.].*$", "", bare).split()):
        for start in range(len(words)):
            said = " ".join(words[start:])
            for candidate in (said, said.rstrip("s"), re.sub(r"ies$", "y", said), re.sub(r"(?:es|s)$", "", said)):
                key = table.get(candidate)
                if key is not None and key in known:
                    return key, " ".join(words[:start])
    return None, ""


def material_key(name: str, known: Mapping[str, Any]) -> str | None:
    """The material that a name means, as `material_meant`; None when none is known."""
    return material_meant(name, known)[0]


_STOPS = (
    ("to_brix", re.compile(r"(?<!\d)(\d+(?:[.,]\d+)?)\s*(?:°\s*)?(?:bx|brix)\b", re.IGNORECASE), 1.0),
    ("to_mass_g", re.compile(r"to\s+(\d+(?:[.,]\d+)?)\s*g\b", re.IGNORECASE), 1.0),
    ("to_mass_g", re.compile(r"to\s+(\d+(?:[.,]\d+)?)\s*kg\b", re.IGNORECASE), 1000.0),
    ("to_volume_ml", re.compile(r"to\s+(\d+(?:[.,]\d+)?)\s*ml\b", re.IGNORECASE), 1.0),
    ("to_volume_ml", re.compile(r"to\s+(\d+(?:[.,]\d+)?)\s*l(?:itres?|iters?)?\b", re.IGNORECASE), 1000.0),
)
_TO_THE_BOIL = re.compile(r"\b(?:boil|boiling|boils)\b", re.IGNORECASE)
_THROWN_AWAY = re.compile(r"^(?:away )?(?:the|any|all(?: of)?(?: the)?)\s+", re.IGNORECASE)
_FRACTIONS = (("half", 0.5), ("a third", 1 / 3), ("two thirds", 2 / 3), ("a quarter", 0.25))


def _where_it_stops(text: str) -> dict[str, float]:
    """The state that a reduction is to reach; by half where nothing is said, which the reader marks."""
    for name, pattern, times in _STOPS:
        if stop := pattern.search(text):
            return {name: float(stop[1].replace(",", ".")) * times}
    for words, share in _FRACTIONS:
        if re.search(rf"\bby {words}\b", text, re.IGNORECASE):
            return {"to_fraction": 1.0 - share}
        if re.search(rf"\bto {words}\b", text, re.IGNORECASE):
            return {"to_fraction": share}
    return {"to_fraction": 0.5}


_LEFT_ALONE = re.compile(
    r"\b(?:(?:without|no|not|never|don['’]?t)\s+(?:\w+\s+){0,2}?(?:press|squeez|stir|push|forc)\w*|drip)", re.IGNORECASE
)
_PRESSED = re.compile(r"\b(?:press|squeez|wring|push)", re.IGNORECASE)
_THROUGH = (
    ("bag", re.compile(r"\b(?:jelly|nut milk|nut|superbag|filter)\s?bag|\bbag\b", re.IGNORECASE)),
    ("cloth", re.compile(r"\b(?:cheese\s?cloth|cloth|muslin|tea towel)\b", re.IGNORECASE)),
)


def _how_strained(text: str) -> dict[str, str | bool]:
    """What it is strained through and whether it is pressed: “through muslin without squeezing” is a cloth left to drip."""
    through = next((name for name, pattern in _THROUGH if pattern.search(text)), None)
    if _LEFT_ALONE.search(text):
        return {"through": through or "sieve_unstirred"}
    return {**({"through": through} if through else {}), **({"pressed": True} if _PRESSED.search(text) else {})}


def figures(verb: str, text: str) -> dict[str, Any]:
    """Minutes and temperatures of a step out of its sentence, where its verb has them."""
    params = VERBS[verb].params()
    found: dict[str, Any] = {}
    time = _MINUTES.search(text)
    if time and "minutes" in params:
        ends = [float(value.replace(",", ".")) for value in (time["low"], time["high"]) if value]
        found["minutes"] = sum(ends) / len(ends) * _PER_UNIT[time["unit"][0].lower()]
    else:
        for word, hours in kitchen_words()["waits_h"].items():
            if "minutes" in params and re.search(rf"\b{word}\b", text, re.IGNORECASE):
                found["minutes"] = hours[0] * 60.0
    heat = next((match for match in TEMPERATURE.finditer(text) if match["unit"]), None) or _BARE.search(text)
    place = next((name for name in ("temperature_c", "to_c", "below_c", "fill_c") if name in params), None)
    if heat and place:
        value = float(heat["value"].replace(",", "."))
        fahrenheit = heat["unit"].upper().startswith("F")
        found[place] = round((value - 32.0) / 1.8, 1) if fahrenheit else value
    if verb == "strain":
        found |= _how_strained(text)
    if verb == "reduce":
        found |= _where_it_stops(text)
    if verb == "bring_to" and _TO_THE_BOIL.search(text):
        found["temperature_c"] = 100.0
    return found


def own_words(verb: str, rest: str) -> dict[str, str]:
    """What a step says in words, out of what follows its verb: what is thrown away is what was taken out before, and never the pot."""
    return {"of": _THROWN_AWAY.sub("", rest).strip(" .,") or "solids"} if verb == "discard" else {}


def parse_step(text: str, known: Mapping[str, Any] | None = None) -> dict[str, Any]:
    """Returns a typed step with its line of one step as people type it: "steep birch tips 9 g 25 min 72 C". Raises Refusal for a text without a verb, and for
    one with several amounts.
    """
    found = verb_of(text)
    if found is None:
        raise Refusal(
            message("“{written}” does not begin with a verb", written=text.strip()),
            "text",
            remedy=message("Begin with what is done: steep, simmer, strain"),
            code="no_verb",
        )
    verb, rest = found
    materials = known or typical_materials()
    step: dict[str, Any] = {"verb": verb, "note": text.strip(), **figures(verb, text), **own_words(verb, rest)}
    if VERBS[verb].takes_lines:
        bare = _MINUTES.sub(" ", _BARE.sub(" ", TEMPERATURE.sub(" ", rest)))
        amounts = list(_AMOUNT.finditer(bare))
        if len(amounts) > 1:
            raise Refusal(
                message("There is more than one amount in “{written}”", written=text.strip()),
                "text",
                message("a typed step puts one thing in"),
                message("Type it with one thing, and add the others to it"),
                "twice",
            )
        amount = amounts[0] if amounts else None
        key = material_key(bare.replace(amount[0], " ") if amount else bare, materials)
        if key is not None:
            step["lines"] = [{"id": key, "material": key, "amount": {"kind": "fixed", "written": amount[0].strip() if amount else ""}}]
    return step
