"""Rows of tokens that each say one ingredient, taken apart; what stands in brackets belongs to what is before it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from ..written.quantities import AMOUNTS, LENGTHS, MEASURED, Quantity
from ..written.tokens import Token
from .parts_by_weight import part_behind
from .rows import ratio_in
from .spellings import fruit_of
from .text_reading import TextReading

_A_PAIR = 2
"""Slashes of “sugar/water 500/500” [count]."""
_OPENING, _CLOSING = {"(": ")", "[": "]"}, ")]"


def depths_of(tokens: Sequence[Token]) -> list[int]:
    """Returns how deep in brackets each token stands [count]."""
    depth, found = 0, []
    for token in tokens:
        if token.plain in _OPENING:
            depth += 1
        found.append(depth)
        if token.plain in _CLOSING:
            depth = max(0, depth - 1)
    return found


def apart(tokens: Sequence[Token], reading: TextReading) -> list[Sequence[Token]]:
    """Returns the rows of tokens that each say one ingredient: “500 g sugar + 10 g citric acid” is two; one row as it is."""
    deep = depths_of(tokens)
    ratio = ratio_in(tokens)
    parted = (
        _pairwise(tokens, reading)
        or _told_in_parts(tokens, reading)
        or _in_a_ratio(tokens, ratio, reading)
        or _each_in_brackets(tokens, deep, reading)
    )
    if parted:
        return parted
    listed = _by_semicolon(tokens, deep, reading)
    if listed:
        return [row for part in listed for row in apart(part, reading)]
    amounts = _own_amounts(tokens, deep, ratio, reading)
    if len(amounts) < 2:
        return _each_by_itself(tokens, deep, amounts, reading) or _behind_equal_parts(tokens, amounts, reading)
    named = [item for item in reading.names.mentions(tokens) if deep[item.start] == 0]
    by_comma = _by_comma(tokens, deep, amounts, reading)
    trimmed = [_trimmed(part, reading) for part in by_comma]
    if by_comma and not any(
        _is_a_strength(row, reading) or _is_more_of_it(part, row, reading) for part, row in zip(by_comma, trimmed, strict=True)
    ):
        return [row for row in trimmed if row]
    between = [
        any(first.end <= item.start < second.start for item in named)
        or _names_a_kind(tokens[first.end : second.start], reading)
        or _of_something(tokens, first, second, reading)
        for first, second in pairwise(amounts)
    ]
    behind = any(token.kind == "word" for token in tokens[amounts[-1].end :])
    weighed = amounts[0].kind in ("count", "vague") and amounts[-1].kind in MEASURED
    if len(named) == 1 and not behind and (amounts[0].start <= 1 or weighed):
        # “6 bananas ~400 g”, “10 ml lactic acid 80 %”: both figures are of one thing.
        return [tokens]
    if amounts[0].start > min((item.start for item in named), default=0) and not any(item.start >= amounts[-1].end for item in named):
        # The amount stands last: “sugar 500 g, water 300 g”.
        cuts = [second.end for second, parted in zip(amounts, [*between, True], strict=False) if parted][:-1]
    else:
        cuts = [_with_its_part(tokens, second.start, reading) for second, parted in zip(amounts[1:], between, strict=False) if parted]
    rows, begin = list[Sequence[Token]](), 0
    for cut in [*cuts, len(tokens)]:
        row = _trimmed(tokens[begin:cut], reading)
        same = _is_a_strength(row, reading) or _is_more_of_it(tokens[begin:cut], row, reading) or _is_of_each(row, reading)
        if rows and row and same:
            # “200 ml spirit, 60 %”, “½ cup water, plus 1 cup”, “equal parts sugar and water, 500 g each”
            rows[-1] = [*rows[-1], *tokens[begin:cut]]
        elif row:
            rows.append(row)
        begin = cut
    return rows or [tokens]


def _own_amounts(
    tokens: Sequence[Token], deep: Sequence[int], ratio: tuple[int, int, float] | None, reading: TextReading
) -> list[Quantity]:
    """Returns the quantities of a row that are amounts of ingredients. Rates (“5 g per litre”), lengths and repeated amounts are omitted."""
    return [
        q
        for q in reading.quantities.all(tokens)
        if q.kind in AMOUNTS
        and deep[q.start] == 0
        and not _per(tokens, q, reading)
        and not _of_a_part(tokens, q, reading)
        and not _from_so_many(tokens, q, reading)
        # “One can of coconut milk, that's 400 ml”
        and not (q.start and tokens[q.start - 1].plain in reading.words.words["thats"])
        and not (ratio and ratio[0] <= q.start < ratio[0] + ratio[1])
        # “1 pineapple, cut in 1-inch rings”
        and not (q.unit in LENGTHS and q.start and next(reading.names.mentions(tokens[q.end :]), None) is None)
    ]


def _of_a_part(tokens: Sequence[Token], quantity: Quantity, reading: TextReading) -> bool:
    """Returns True if a quantity measures a part of the fruit named before it: the second amount of “6 lemons, about 250 ml juice”."""
    if not part_behind(reading, tokens, quantity):
        return False
    fruit = next(reversed(list(reading.names.mentions(tokens[: quantity.start]))), None)
    return fruit is not None and fruit.key is not None and not fruit.part and reading.material(fruit.key).kind == "fruit"


def _from_so_many(tokens: Sequence[Token], quantity: Quantity, reading: TextReading) -> bool:
    """Returns True if a count says from how many fruits the part before it comes: the 8 of “12 g lime zest, from 8 limes”."""
    between = reading.words.words["between"] | reading.words.words["approximately"]
    if (
        quantity.kind != "count"
        or not quantity.start
        or not any(t.plain in between for t in tokens[max(0, quantity.start - 2) : quantity.end])
    ):
        return False
    fruit = next(reading.names.mentions(tokens[quantity.end :]), None)
    before = next(reversed(list(reading.names.mentions(tokens[: quantity.start]))), None)
    known = reading.names.known
    return fruit is not None and fruit.key is not None and before is not None and fruit_of(before.key or "", known) == fruit.key


def _is_more_of_it(tokens: Sequence[Token], row: Sequence[Token], reading: TextReading) -> bool:
    """Returns True for “plus 1 cup” without a name: so much more of what was named before. `row` are the tokens without their joining words."""
    found = reading.quantities.at(row, 0) if row else None
    joined = any(token.plain in reading.words.words["and"] for token in tokens[: len(tokens) - len(row)])
    return joined and found is not None and found.kind in MEASURED and found.end == len(row)


def _is_of_each(row: Sequence[Token], reading: TextReading) -> bool:
    """Returns True for a row that is an amount and “each” without a name: “500 g each”. The amount is that of each material named before."""
    found = reading.quantities.at(row, 0) if row else None
    return found is not None and found.kind in MEASURED and reading.words.at("alike", row, found.end) is not None and not reading.knows(row)


def _is_a_strength(tokens: Sequence[Token], reading: TextReading) -> bool:
    """Returns True for a percentage and nothing else: “60 %”, “50 % abv”."""
    found, strong = reading.quantities.at(tokens, 0) if tokens else None, reading.words.words["strength_words"]
    return found is not None and found.kind == "percent" and all(token.plain in strong for token in tokens[found.end :])


def _told_in_parts(tokens: Sequence[Token], reading: TextReading) -> list[Sequence[Token]]:
    """Returns the rows of “4 verjus : 3 honey : 1 water”, each in parts; [] for another row."""
    cuts = [at for at, token in enumerate(tokens) if token.plain == ":"]
    parts = [tokens[begin : end - 1] for begin, end in pairwise([0, *(cut + 1 for cut in cuts), len(tokens) + 1])]
    counted = len(parts) > 1 and all(
        len(part) > 1
        and part[0].number is not None
        and part[1].kind == "word"
        and (q := reading.quantities.at(part, 0)) is not None
        and q.kind == "count"
        and next(reading.names.mentions(part), None) is not None
        for part in parts
    )
    if not counted:
        return []
    return [_in_parts(part[0], part[1:], reading) for part in parts]


def _pairwise(tokens: Sequence[Token], reading: TextReading) -> list[Sequence[Token]]:
    """Returns the rows of “sugar/water 500/500”: as many names as numbers, each with its own; [] for another row."""
    slashes = [at for at, token in enumerate(tokens) if token.plain == "/"]
    if len(slashes) != _A_PAIR or slashes[1] != len(tokens) - 2 or slashes[1] - slashes[0] < _A_PAIR + 1:
        return []
    first, names = tokens[slashes[1] - 1], tokens[: slashes[1] - 1]
    parts = (names[: slashes[0]], names[slashes[0] + 1 :])
    numbers = (first, tokens[-1])
    known = all(part and next(reading.names.mentions(part), None) is not None for part in parts)
    return [[*part, number] for part, number in zip(parts, numbers, strict=True)] if known and all(n.number for n in numbers) else []


def _by_semicolon(tokens: Sequence[Token], deep: Sequence[int], reading: TextReading) -> list[Sequence[Token]]:
    """Returns the parts of “raspberries – 400 g; water – 200 ml; rose water – to taste”, each with a name; [] for another row."""
    cuts = [at for at, token in enumerate(tokens) if token.plain == ";" and not deep[at]]
    parts = [part for begin, end in pairwise([0, *(cut + 1 for cut in cuts), len(tokens) + 1]) if (part := tokens[begin : end - 1])]
    return parts if len(parts) > 1 and all(next(reading.names.mentions(part), None) is not None for part in parts) else []


def _in_parts(number: Token, name: Sequence[Token], reading: TextReading) -> Sequence[Token]:
    """Returns the row “2 parts sugar” of a number and a name."""
    word = str(next(iter(reading.words.data["parts_words"])))
    return [number, replace(number, kind="word", text=word, plain=word, stem=word, number=None), *name]


def _in_a_ratio(tokens: Sequence[Token], ratio: tuple[int, int, float] | None, reading: TextReading) -> list[Sequence[Token]]:
    """Returns the two rows, each in parts, of “10:1 water to salt” and “sugar and water 2:1”; [] for another row."""
    if ratio is None or (ratio[0] and ratio[0] + ratio[1] < len(tokens)):
        return []
    names = tokens[ratio[1] :] if not ratio[0] else tokens[: ratio[0]]
    words = reading.words.words
    joints = [
        at for at, token in enumerate(names) if token.plain in ":/" or any(token.plain in words[key] for key in ("to", "and", "with"))
    ]
    if len(joints) != 1 or any(q.kind in AMOUNTS for q in reading.quantities.all(names)):
        return []
    parts = (names[: joints[0]], names[joints[0] + 1 :])
    if not all(next(reading.names.mentions(part), None) is not None for part in parts):
        return []
    return [_in_parts(tokens[ratio[0] + at], part, reading) for at, part in zip((0, 2), parts, strict=True)]


def _each_in_brackets(tokens: Sequence[Token], deep: Sequence[int], reading: TextReading) -> list[Sequence[Token]]:
    """Returns the parts of “sugar (500 g) and water (500 g)”, each a name with one measured amount in brackets at its end; [] for another row."""
    if tokens[-1].plain not in _CLOSING:
        return []
    cuts = [at for at, token in enumerate(tokens) if (token.plain in ",+" or token.plain in reading.words.words["and"]) and not deep[at]]
    parts = [tokens[begin : end - 1] for begin, end in pairwise([0, *(cut + 1 for cut in cuts), len(tokens) + 1])]
    if len(parts) < 2 or not all(part and part[-1].plain in _CLOSING for part in parts):
        return []
    measured = [[q for q in reading.quantities.all(part) if q.kind in MEASURED] for part in parts]
    one = all(
        len(found) == 1 and found[0].start and part[found[0].start - 1].plain in _OPENING
        for part, found in zip(parts, measured, strict=True)
    )
    return parts if one and all(next(reading.names.mentions(part), None) is not None for part in parts) else []


def _each_by_itself(
    tokens: Sequence[Token], deep: Sequence[int], amounts: Sequence[Quantity], reading: TextReading
) -> list[Sequence[Token]]:
    """Returns the comma-separated parts of “lemons, sugar, water”, each a known name of another kind, and of “1 kg quince, water to cover”; [] for another row."""
    cuts = [at for at, token in enumerate(tokens) if (token.plain == "," or token.plain in reading.words.words["and"]) and deep[at] == 0]
    parts = [tokens[begin : end - 1] for begin, end in pairwise([0, *(cut + 1 for cut in cuts), len(tokens) + 1])]
    if len(parts) < 2 or not all(parts):
        return []
    named = [next(reading.names.mentions(part), None) for part in parts]
    kinds = [reading.material(item.key).kind for item in named if item is not None and item.key]
    if len(set(kinds)) < len(parts):
        # “250 g sugar, demerara” is one thing.
        return []
    if amounts:
        states = (reading.words.says("cover", part) or reading.words.says("make_up", part) for part in parts[1:])
        return parts if amounts[0].end <= cuts[0] and all(states) else []
    return parts if all(item is not None and item.end - item.start == len(part) for item, part in zip(named, parts, strict=True)) else []


def _behind_equal_parts(tokens: Sequence[Token], amounts: Sequence[Quantity], reading: TextReading) -> list[Sequence[Token]]:
    """Returns “equal parts honey and water, plus 1 % thyme” as two rows; another row as it is."""
    comma = next((at for at, token in enumerate(tokens) if token.plain == ","), 0)
    if not comma or not amounts or amounts[0].start < comma or reading.words.at("equal", tokens, 0) is None:
        return [tokens]
    behind = _trimmed(tokens[comma:], reading)
    return [tokens] if _is_of_each(behind, reading) else [tokens[:comma], behind]


def _by_comma(tokens: Sequence[Token], deep: Sequence[int], amounts: Sequence[Quantity], reading: TextReading) -> list[Sequence[Token]]:
    """Returns the comma-separated parts of a row if each has one amount and one name: “lime juice two litres, egg whites a dozen”; else []."""
    cuts = [at for at, token in enumerate(tokens) if token.plain in ",;" and deep[at] == 0]
    if not cuts:
        return []
    parts = [tokens[begin : end - 1] for begin, end in pairwise([0, *(cut + 1 for cut in cuts), len(tokens) + 1])]
    measured = {tokens[at].start for q in amounts for at in range(q.start, q.end)}
    # “Spirit 60 % 200 ml” is measured once.
    starts = {tokens[q.start].start for q in amounts if q.kind != "percent" or not any(other.start == q.end for other in amounts)}
    known = sum(next(reading.names.mentions(part), None) is not None for part in parts)
    whole = all(
        (sum(token.start in starts for token in part) == 1 or (at and _unmeasured(part, reading)))
        and not (len(part) > 1 and part[-1].start in starts and part[-2].plain in reading.words.words["of"])
        and any(token.kind == "word" and token.start not in measured and not _describes(token, reading) for token in part)
        for at, part in enumerate(parts)
    )
    return list(parts) if whole and 2 * known >= len(parts) else []


def _unmeasured(tokens: Sequence[Token], reading: TextReading) -> bool:
    """Returns True for “water – to cover”, “rose water to taste”."""
    return any(reading.words.says(section, tokens) for section in ("to_taste", "cover", "make_up", "top_up"))


def _with_its_part(tokens: Sequence[Token], at: int, reading: TextReading) -> int:
    """Returns the first token of a row whose amount is at a position: that of “zest of” if it comes right before the amount, else the position."""
    led = at > 1 and tokens[at - 1].plain in reading.words.words["of"] and reading.words.at("part_words", tokens, at - 2) is not None
    return at - 2 if led else at


def _describes(token: Token, reading: TextReading) -> bool:
    words = reading.words
    return token.plain in words.words["describes"] or token.stem in words.words["describes"] or words.at("vague", [token], 0) is not None


def _names_a_kind(tokens: Sequence[Token], reading: TextReading) -> bool:
    """Returns True if a mark after these tokens separates two ingredients: a “+” or “/” at the end of a name, known or not (“acid +”, “hon /”)."""
    mark = next((at for at, token in enumerate(tokens) if token.kind == "mark" and token.plain in "/+,;"), None)
    if mark is None:
        return False
    alone = mark == len(tokens) - 1 and any(token.kind == "word" and not _describes(token, reading) for token in tokens[:mark])
    return (alone and tokens[mark].plain in "/+") or reading.words.says("unnamed", tokens)


def _of_something(tokens: Sequence[Token], first: Quantity, second: Quantity, reading: TextReading) -> bool:
    """Returns True for two amounts that are each “of” a thing, known or not: “four litres of simple, and a litre of egg white”."""
    words = reading.words
    of = all(quantity.end < len(tokens) and words.at("of", tokens, quantity.end) is not None for quantity in (first, second))
    between = tokens[first.end : second.start]
    return of and len(between) > 2 and any(token.plain == "," or token.plain in words.words["and"] for token in between)


def _trimmed(tokens: Sequence[Token], reading: TextReading) -> Sequence[Token]:
    """Returns a row without the marks and joining words at its ends."""
    joints = reading.words.words["and"] | reading.words.words["to"] | {",", "+", "/", ":", ";", "|", ".", "·", "•", "="}
    start, end = 0, len(tokens)
    while start < end and tokens[start].plain in joints:
        start += 1
    while end > start and tokens[end - 1].plain in joints:
        end -= 1
    return tokens[start:end]


def _for_one(tokens: Sequence[Token], quantity: Quantity, reading: TextReading) -> bool:
    """Returns True if a quantity is the basis of a rate without “per”: the “a litre” of “10 g of citric a litre”."""
    words, at = reading.words.words, quantity.start
    alone = quantity.end == len(tokens) == at + 2 and at > 1 and tokens[at].plain in words["one"]
    if not alone or tokens[at - 1].plain in words["of"] or next(reading.names.mentions(tokens[at - 1 : at]), None) is None:
        return False
    begin = max((n + 1 for n in range(at) if tokens[n].kind == "mark"), default=0)
    return any(q.kind in (*MEASURED, "vague") for q in reading.quantities.all(tokens[begin:at]))


def _per(tokens: Sequence[Token], quantity: Quantity, reading: TextReading) -> bool:
    """Returns True for the second amount of “600 g per kg”, “60 g for every 100 g”."""
    before = tokens[max(0, quantity.start - 2) : quantity.start]
    if _for_one(tokens, quantity, reading):
        return True
    return (bool(before) and (before[-1].plain == "per" or reading.words.at("per", before, len(before) - 1) is not None)) or (
        len(before) == 2 and reading.words.at("per", before, 0) is not None
    )
