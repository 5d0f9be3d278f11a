"""Waits: which verb one is, by what stands in the vessel: pieces in spirit, in sugar, in water, or none."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from ..base.ranges import Range
from ..written.tokens import Token, tokens_of
from .action import FINISHING_VERBS, Action
from .ingredient import Ingredient
from .spellings import part_key
from .text_reading import TextReading

PIECES = ("leaf", "herb", "flower", "spice", "peel", "fruit", "root", "bark", "nut", "vegetable", "grain", "fat")
"""Kinds that stand in a liquid until they are strained out."""
STRAINS = ("strain", "filter", "press", "drip", "skim", "agar", "centrifuge")
"""Actions that part a liquid from what stands in it."""
_FRIDGE = 4.0
"""Assumed temperature of a refrigerator [°C]. House convention."""
_FREEZES = -5.0
"""Temperature of a place below which a wait is a freezing [°C]."""
_A_DAY = 1440.0
_BOILS, _BROWNS = 101.0, 140.0
"""Temperatures above which a sugar solution boils beyond boiling water, and from which its sugar browns [°C]."""
_HEATS = ("dissolve", "bring_to", "simmer", "hold")
"""Heating verbs that are a caramelisation if the text says so."""
_MAKES_WET = ("boil", "simmer", "bring_to", "hold", "dissolve", "reduce", "blend")
"""Verbs after which fruit stands in its own juice."""
_A_WHILE = 20.0
"""Minutes from which nobody stirs all the time: it stands [min]. House judgement."""
_SIMMERS = 90.0
"""Temperature below which a simmer is a hold [°C]."""
_WARM = 25.0
"""Degrees below which nothing is kept warm: it is stored [°C]."""
_COLD, _ROOM = {"salt", "acid", "water", "juice"}, 20.0
"""Kinds that dissolve and mix without warmth, and the temperature of a room [°C]."""
_LONGEST_HOLD = 480.0
"""Time from which “hold” without a temperature means to wait, not to keep hot [min]. House judgement."""
_WARMEST_REST = 30.0
"""Temperature above which a rest is a hold [°C]."""
_SPIRITS = ("spirit", "wine", "tincture")


def stored_for_a_while(reading: TextReading, actions: Sequence[Action]) -> None:
    """“24 h fridge” in the middle of a method is a wait."""
    last = max((at for at, action in enumerate(actions) if action.verb not in ("store", "label", "bottle")), default=-1)
    for action in actions[: last + 1]:
        if action.verb == "store" and action.minutes is not None:
            action.verb = "wait"
    end = actions[-1] if len(actions) > 1 else None
    if end is not None and end.verb == "store" and end.minutes is not None and reading.words.says("before_words", end.tokens):
        # “Refrigerate 1 week before using”
        end.verb = "wait"
    if end is not None and end.verb == "freeze" and actions[-2].verb in FINISHING_VERBS:
        # “Bottle, freezer, 5 days”
        end.verb = "store"
    if end is not None and end.verb == "wait" and end.minutes is None and actions[-2].verb in FINISHING_VERBS:
        # “Bottle it, leave it out.”
        end.verb = "store"
    if (
        end is not None
        and end.verb in ("cool", "wait")
        and end.minutes is not None
        and end.minutes.value >= _A_DAY
        and reading.words.says("up_to", end.tokens)
    ):
        # “Chill for up to 5 days”
        end.verb = "store"
    if end is not None and end.verb == "wait" and not end.word and actions[-2].verb in ("cool", *FINISHING_VERBS):
        # “Chill. 5 days.” says how long it keeps.
        end.verb = "store"
    if end is not None and end.verb == "wait" and actions[-2].verb in ("strain", "filter") and _only_days(end):
        # “Strain. 5 d”
        end.verb = "store"


def bottled_where_strained(reading: TextReading, actions: list[Action]) -> None:
    """Appends a bottling action if the last action strains into bottles: “strain into bottles”."""
    last = max((at for at, action in enumerate(actions) if action.verb not in FINISHING_VERBS), default=-1)
    if last < 0 or actions[last].verb not in STRAINS or any(action.verb in ("bottle", "hot_fill") for action in actions):
        return
    into = actions[last].into
    if reading.words.says("bottle_words", into):
        actions.insert(last + 1, Action("bottle", actions[last].line, into))


def _only_days(action: Action) -> bool:
    """Returns True if an action says a time of a day or more, and nothing else but a cold place."""
    times = [q for q in action.quantities if q.kind == "minutes" and q.amount.value >= _A_DAY]
    alone = len(times) == 1 and times[0].end - times[0].start == len(action.tokens)
    cold = action.celsius is not None and action.celsius.value < _WARM
    return alone or (len(times) == 1 and cold and not action.word)


def place_c(tokens: Sequence[Token], reading: TextReading) -> float | None:
    """Returns the temperature of the place that words name [°C]; None without one. A room or fridge counts before “cold”; “in cold water” is no place."""
    found = [(at, hit) for at in range(len(tokens)) if (hit := reading.words.at("places", tokens, at))]
    described = {named.start for named in reading.names.mentions(tokens)}
    places = [
        (tokens[at].plain in reading.words.words["describes"], at, float(hit[1])) for at, hit in found if at + hit[0] not in described
    ]
    if not places and any(token.plain in reading.words.words["cold_verbs"] for token in tokens):
        return _FRIDGE
    return min(places)[2] if places else None


def waits_off_the_heat(actions: list[Action]) -> None:
    """Moves the time of an off-heat action with lines to a wait after it: “kill the heat, basil in, 30 min”."""
    for action in [action for action in actions if action.verb == "off_heat" and action.minutes is not None and action.lines]:
        actions.insert(actions.index(action) + 1, Action("wait", action.line, action.tokens, action.minutes, action.celsius))
        action.minutes = None


def waits_resolved(reading: TextReading, actions: list[Action]) -> None:
    """Gives each wait and infusion its verb, by what stands in the vessel: pieces in spirit, in sugar, in water, or none."""
    there: list[str] = []
    runny = citrus = False
    zestable = any(_has_zest(reading, item.key) for item in reading.listed)
    parted: list[tuple[Action, str]] = []
    for action in actions:
        kinds = [_kind(reading, item) for item in action.lines]
        there += kinds
        # Honey is a liquid, and what was heated or blended has given its juice.
        runny = runny or action.verb in _MAKES_WET
        runny = runny or any(
            kind == "sweetener" and reading.material(item.key).pours for kind, item in zip(kinds, action.lines, strict=True)
        )
        pieces = any(kind in PIECES for kind in there)
        spirit = any(kind in _SPIRITS for kind in there)
        citrus_in = any(kind == "fruit" and _has_zest(reading, item.key) for kind, item in zip(kinds, action.lines, strict=True))
        zested = citrus_in or "peel" in kinds
        zestable = zestable or zested
        citrus = citrus or citrus_in
        if action.verb == "zest" and not (zested if kinds else zestable or not there):
            # Grated ginger gives no zest.
            action.verb = "cut"
        _by_its_heat(action, reading, last=action is actions[-1], sugar="sweetener" in there)
        if action.verb in ("wait", "infuse", "steep", "macerate") and (place_c(action.tokens, reading) or 0.0) < _FREEZES:
            # “A night in the freezer”
            action.verb = "freeze"
        if action.verb == "press" and not action.lines and citrus and not _wet(there):
            # “Grill the lemons. Squeeze.”
            action.verb = "juice"
        if action.verb in ("infuse", "steep") and _drawn_dry(there) and not runny:
            action.verb = "macerate"
        elif action.verb == "infuse" and not spirit:
            action.verb = "steep"
        elif action.verb == "wait":
            action.verb = _wait(reading, action, there, pieces=pieces, spirit=spirit)
        elif action.verb in STRAINS:
            if "fat" in there and any(kind in _SPIRITS for kind in there):
                # A fat that was washed with stays on the filter, set.
                parted.append((action, "settle"))
            if action.verb == "filter" and any(kind in PIECES and kind != "fat" for kind in there):
                if action.verb in reading.words.words["filter_strains"]:
                    # “Filtrar” is what one does through a sieve as well.
                    action.verb = "strain"
                else:
                    parted.append((action, "strain"))
            there = [kind for kind in there if kind not in PIECES]
    for action, verb in parted:
        actions.insert(actions.index(action), Action(verb, action.line, action.tokens, word=verb))


def _by_its_heat(action: Action, reading: TextReading, *, last: bool, sugar: bool) -> None:
    """Sets the verb of an action by its temperature and time. `last`: it is the last of the method; `sugar`: the vessel holds sugar."""
    heat = action.celsius.value if action.celsius is not None else None
    if action.verb in _HEATS and sugar and reading.words.says("caramel_words", action.tokens):
        # “Cook the sugar until deep amber”
        action.verb = "caramelise"
    if action.verb in (*_HEATS, "boil") and sugar and heat is not None and heat > _BOILS and (action.minutes is None or heat >= _BROWNS):
        # “Cook the sugar to 112 °C” boils water off, to 170 °C it browns
        action.verb = "caramelise" if heat >= _BROWNS else "reduce"
    if action.verb == "simmer" and heat is not None and heat < _SIMMERS:
        # “Cook at 65 °C for an hour”, “simmer 12 min at 85 °C”
        action.verb = "hold"
    if action.verb == "combine" and not action.lines and heat is None and action.minutes is not None and action.minutes.value >= _A_WHILE:
        # “60 C, stir, 30 min”
        action.verb = "wait"
    if action.verb == "combine" and action.minutes is not None and heat is not None and heat > _WARMEST_REST:
        # “All in, 50 C, 20 min”
        action.verb = "hold"
    if action.verb == "hold" and heat is not None and heat < _WARM:
        # “Keep at 4 °C for 5 days”
        action.verb = "store" if last else "wait"
    if action.verb == "wait" and heat is None and action.minutes is not None and reading.words.says("low_heat", action.tokens):
        # “Lid on, low heat, 25 minutes”
        action.verb = "simmer"
    until = action.minutes is not None or reading.words.says("dissolve_words", action.tokens)
    if action.verb == "combine" and action.word and heat is None and until and reading.words.says("low_heat", action.tokens):
        # “Stir over a low heat until dissolved”
        action.verb = "dissolve"
    long = action.minutes is not None and action.minutes.value >= _LONGEST_HOLD
    if action.verb == "hold" and heat is None and (long or (action.minutes and reading.words.says("places", action.tokens))):
        # “Hold 48 hrs in fridge”
        action.verb = "wait"
    if action.verb == "off_heat" and action.minutes is not None and not action.lines:
        # “Cover, off the heat, for 2 hours”
        action.verb = "wait"


def _kind(reading: TextReading, item: Ingredient) -> str:
    """Returns the kind of an ingredient in a vessel: “herb” for an unknown plant, “dairy” for a milk of grain or nuts, else that of its material."""
    if _strange_plant(item.own):
        return "herb"
    material = reading.material(item.key)
    return "dairy" if material.kind in ("grain", "nut") and material.pours else material.kind


def _strange_plant(own: Mapping[str, Any] | None) -> bool:
    """Returns True for an unknown material that is treated as plant matter."""
    return own is not None and own.get("kind") == "other" and "plant" in str(own.get("taken_as") or "")


def _has_zest(reading: TextReading, key: str) -> bool:
    """Returns True for a fruit that has a zest: grated pears give none."""
    return part_key(key, "zest", reading.names.known) is not None


def dissolved_cold(reading: TextReading, actions: Sequence[Action]) -> None:
    """Gives the room's temperature to a step that dissolves salt or acid and says nothing of warmth: nothing boils away there."""
    warmed = False
    for action in actions:
        kinds = {reading.material(item.key).kind for item in action.lines}
        said = [*action.tokens, *(token for item in action.lines for token in tokens_of(item.text))]
        warm = reading.words.says("warm_words", said) or action.celsius is not None or action.degrees is not None
        if action.verb == "dissolve" and not warm and not warmed and kinds and kinds <= _COLD:
            action.celsius = Range.exact(_ROOM)
        warmed = warmed or warm or action.verb in ("boil", "simmer", "bring_to", "hold", "reduce")


def _wait(reading: TextReading, action: Action, there: Sequence[str], *, pieces: bool, spirit: bool) -> str:
    if action.minutes is None and reading.words.says("cold_words", action.tokens):
        return "cool"
    if not pieces:
        kept_warm = action.celsius is not None and action.celsius.value > _WARMEST_REST
        return "steep" if action.lines else "hold" if kept_warm else "rest"
    if spirit:
        return "infuse"
    return "macerate" if _drawn_dry(there) else "steep"


def _drawn_dry(there: Sequence[str]) -> bool:
    """Returns True if a vessel contains pieces and sugar and no liquid. `there` are the kinds of the materials in it."""
    return "sweetener" in there and not _wet(there) and any(kind in PIECES for kind in there)


def _wet(there: Sequence[str]) -> bool:
    return any(kind in ("water", "juice", "vinegar", "dairy", *_SPIRITS) for kind in there)
