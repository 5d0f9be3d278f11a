"""A text as tokens: numbers, words, marks and line breaks, each with its place in the text."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from ..base.numerals import DIGITS, FRACTION, Numeral, decimal, fraction
from ..base.vocabulary import plain

Kind = Literal["number", "word", "mark"]
_LONGEST_DIGITS = 16
"""Digits in a row from which they are no number [count]."""
_BEHIND = r"(?:(?<![.,\d])|(?<=\.\.)|(?<=[^\W\d_][.,]))"
"""What may stand right before a number: a letter or a line, a row of dots, a word's comma; “sugar,1.8 kg” and “sugar....1.8 kg” are both 1.8 kg."""
_TOKEN = re.compile(
    rf"(?P<row>\d{{{_LONGEST_DIGITS},}})|(?P<formula>[hHcCnN][2₂₀O][oO0₂2]\b)|(?P<part>(?<=\d:)\d+(?=\s\d))|(?P<slashed>\b[oO]/[nN]\b)|(?P<number>{FRACTION}|(?<![.,\w]){DIGITS}|{_BEHIND}(?=\d){DIGITS}|\d+)|(?P<elided>[dD]emi-(?!sec|glace)(?=[^\W\d_])|(?:[dlnscjmtDLNSCJMT]|[qQ]u|[dD]ell|[aA]ll|[nN]ell|[dD]all|[sS]ull|[uU]n)['’](?=[^\W\d_]{{2}}))|(?P<word>[^\W\d_]+(?:['’\-][^\W\d_]+)*['’]?)|(?P<mark>[^\s\w]|_)"
)


@dataclass(frozen=True, slots=True)
class Token:
    """One token. `plain` is its text for comparison, `stem` the same in the singular; `start` and `end` are its place in the text [letters]."""

    kind: Kind
    text: str
    plain: str
    stem: str
    start: int
    end: int
    number: Numeral | None = None


_KEEPS_ITS_S = frozenset({"grass", "glass", "molasses", "hibiscus", "citrus", "asparagus", "press", "less", "anis", "lemongrass", "swiss", "bus", "gas", "plus", "this", "is", "as", "its", "cassis", "couscous", "hops", "oats", "dress", "cress", "pass", "mass", "toss", "us", "pus", "mais", "frais", "fois", "gros", "sous", "dans", "des", "les", "aus", "eis", "pois", "bis", "los", "las", "anís", "mas", "tres", "dos", "seis"})  # fmt: skip


_IRREGULAR = {
    "chillies": "chilli",
    "chilies": "chili",
    "chiles": "chile",
    "leaves": "leaf",
    "halves": "half",
    "knives": "knife",
    "loaves": "loaf",
    "cookies": "cookie",
    "potatoes": "potato",
    "tomatoes": "tomato",
    "mangoes": "mango",
}


@lru_cache(maxsize=8192)
def stem(word: str) -> str:
    """Returns a word in the singular, as far as its ending tells: “leaves” is “leaf”, “berries” is “berry”, “peaches” is “peach”."""
    if word in _IRREGULAR:
        return _IRREGULAR[word]
    if len(word) < 4 or word in _KEEPS_ITS_S or not word.endswith("s") or word.endswith("ss"):
        return word
    if word.endswith("ies") and len(word) > 4:
        return f"{word[:-3]}y"
    if word.endswith(("ches", "shes", "sses", "xes", "zzes", "toes", "goes")):
        return word[:-2]
    return word[:-1]


def _number(text: str) -> Numeral | None:
    try:
        return decimal(text) if re.fullmatch(DIGITS, text) else fraction(text)
    except (ValueError, OverflowError):
        return None


_SHORTEST_OWNER = 4
"""Letters of a plural with its apostrophe, at least [count]."""
_SHORT = 200
"""Letters of a text whose tokens are kept: names and lines, which are read again and again [count]. Of longer texts the last four are kept."""


def tokens_of(text: str, offset: int = 0) -> list[Token]:
    """Returns the tokens of a text in their order; places count from `offset` [letters]."""
    if offset:
        return _tokens(text, offset)
    return list(_kept(text) if len(text) <= _SHORT else _lately(text))


@lru_cache(maxsize=4096)
def _kept(text: str) -> tuple[Token, ...]:
    return tuple(_tokens(text, 0))


@lru_cache(maxsize=4)
def _lately(text: str) -> tuple[Token, ...]:
    return tuple(_tokens(text, 0))


def _tokens(text: str, offset: int) -> list[Token]:
    found: list[Token] = []
    for match in _TOKEN.finditer(text):
        kind: Kind = "number" if match["number"] or match["part"] else "mark" if match["mark"] else "word"
        said = match[0]
        numeral = _number(said) if kind == "number" else None
        if kind == "number" and numeral is None:
            kind = "word"
        compared = plain(said.replace("’", "'")).rstrip("-") if kind == "word" else said
        # “4 limes' worth”
        compared = compared[:-1] if compared.endswith("s'") and len(compared) > _SHORTEST_OWNER else compared
        found.append(Token(kind, said, compared, stem(compared), match.start() + offset, match.end() + offset, numeral))
    return found
