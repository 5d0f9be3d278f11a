"""Rows of tokens: a line without its decoration, and its sentences."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise

from ..base.numerals import Numeral
from ..written.lexicon import Lexicon
from ..written.tokens import Token

MOST_TOKENS = 160
"""Tokens of one sentence, and of one line of the list, that are read together [count]."""
_MOST_PARTS = 20.0
"""Largest number of a ratio in parts [-]."""
_DECORATION = frozenset('*_`"“”„«»‹›•·▪◦‣●○■□☐☑✓✔►▶→⇒➤>#~^\\{}<☒✅⬜')
_ARROWS = frozenset("→⇒➤")
"""Marks that lead from one step to the next."""
_MOST_LEAD = 3
"""Largest number of tokens of a phrase such as “start off by” [count]."""
_MOST_FILL = 5
"""Largest distance from “auf” to its “auffüllen” [tokens]."""
_BULLETS = frozenset("-–—+")
_STOPS = frozenset(".;!?")


def bare(tokens: Sequence[Token]) -> list[Token]:
    """Returns the tokens of a line without its bullet, number, box, markup, quotes and rows of dots."""
    kept = [_parting(token) if at else token for at, token in enumerate(_with_arrows(tokens))]
    kept = [
        # “2*500 g”
        replace(token, text="x", plain="x", stem="x") if token.plain == "*" and _between_numbers(kept, at) else token
        for at, token in enumerate(kept)
    ]
    kept = [token for token in kept if token.plain not in _DECORATION and not _is_symbol(token)]
    # “Sugar.....500 g”: a row of dots leads to the amount.
    kept = [
        token
        for at, token in enumerate(kept)
        if token.plain not in (".", "…") or not (_next_is(kept, at, ".") or (at and kept[at - 1].plain in (".", "…")) or token.plain == "…")
    ]
    while kept and (kept[0].plain in _BULLETS or kept[0].plain == "|"):
        kept = kept[1:]
    if len(kept) > 2 and kept[0].plain == "[" and kept[1].plain in ("]", "x"):
        kept = kept[2:] if kept[1].plain == "]" else kept[3:]
    if len(kept) > 2 and kept[0].plain == "(" and kept[1].number is not None and kept[2].plain == ")":
        kept = kept[3:]
    numbered = (
        len(kept) > 2
        and kept[0].number is not None
        and kept[1].plain in (".", ")")
        and kept[2].start > kept[1].end - (kept[1].plain == ")")
    )
    if numbered and kept[0].text.isdigit() and len(kept[0].text) <= 2:
        kept = kept[2:]
    while kept and kept[-1].plain == "|":
        kept = kept[:-1]
    return kept


def _between_numbers(tokens: Sequence[Token], at: int) -> bool:
    return 0 < at < len(tokens) - 1 and tokens[at - 1].number is not None and tokens[at + 1].number is not None


def _with_arrows(tokens: Sequence[Token]) -> list[Token]:
    """Returns tokens with each “->” and “=>” as one arrow token."""
    kept = list[Token]()
    for token in tokens:
        if token.plain == ">" and kept and kept[-1].plain in "-=–" and kept[-1].end == token.start:
            kept[-1] = replace(token, text="→", plain="→", stem="→", start=kept[-1].start)
        else:
            kept.append(token)
    return kept


def _parting(token: Token) -> Token:
    """Returns a token unchanged, or a comma in place of an arrow, which separates two steps."""
    return replace(token, text=",", plain=",", stem=",") if token.plain in _ARROWS else token


def added_apart(sentence: Sequence[Token]) -> list[Sequence[Token]]:
    """Returns a sentence split at each “, +”: “rub, 12 h” and “+ juice 200 g, strain”. A sentence without “, +” is returned as one part."""
    cuts = [at for at, token in enumerate(sentence) if at > 1 and token.plain == "+" and sentence[at - 1].plain == ","]
    return [sentence[begin : end - 1] for begin, end in pairwise([0, *cuts, len(sentence) + 1])]


def with_slashes_parted(tokens: Sequence[Token]) -> Sequence[Token]:
    """Returns tokens with a comma in place of each slash that has a space on both sides: “3 d fridge / press / bottle”."""
    if not any(token.plain == "/" for token in tokens):
        return tokens
    made = list(tokens)
    for at in range(1, len(tokens) - 1):
        token = tokens[at]
        if token.plain == "/" and tokens[at - 1].end < token.start and token.end < tokens[at + 1].start:
            made[at] = replace(token, text=",", plain=",", stem=",")
    return made


def _next_is(tokens: Sequence[Token], at: int, mark: str) -> bool:
    return at + 1 < len(tokens) and tokens[at + 1].plain == mark and tokens[at + 1].start == tokens[at].end


def _is_symbol(token: Token) -> bool:
    """Returns True for emoji and other pictures."""
    return token.kind == "mark" and ord(token.text[0]) >= 0x2190 and token.text not in "℃℉−"


def ratio_in(tokens: Sequence[Token]) -> tuple[int, int, float] | None:
    """Returns (position, number of tokens, value) of the first ratio among the tokens: “1:1”, “2:1”."""
    for at in range(len(tokens) - 2):
        one, other = tokens[at].number, tokens[at + 2].number
        if one and other and tokens[at + 1].plain == ":" and 0 < one.value <= _MOST_PARTS and 0 < other.value <= _MOST_PARTS:
            return at, 3, one.value / other.value
    return None


def with_ratios(tokens: Sequence[Token], words: Lexicon) -> list[Token]:
    """Returns tokens with spoken ratios in figures: “two to one syrup” becomes “2:1 syrup”. Rising numbers, “two to three”, are ranges and stay."""
    made = list(tokens)
    for at in range(1, len(tokens) - 1):
        if tokens[at].kind != "word" or tokens[at].plain not in words.words["to"]:
            continue
        one, other = _part_in(tokens[at - 1], words), _part_in(tokens[at + 1], words)
        about = [*tokens[max(0, at - 3) : at - 1], *tokens[at + 2 : at + 4]]
        ratio = one is not None and other is not None and other.value <= one.value <= _MOST_PARTS
        # “Three to one by weight” is left as it was said: nothing behind it says of what.
        if ratio and one and other and (words.says("forms", about) or _against(about, words)):
            made[at - 1] = replace(tokens[at - 1], kind="number", text=f"{one.value:g}", number=one)
            made[at] = replace(tokens[at], kind="mark", text=":", plain=":", stem=":")
            made[at + 1] = replace(tokens[at + 1], kind="number", text=f"{other.value:g}", number=other)
    return made


def with_fills(tokens: Sequence[Token], words: Lexicon) -> Sequence[Token]:
    """Returns tokens in which “auf 1 l auffüllen” is replaced by “ad 1 l”, so that the verb precedes its amount as in the other languages."""
    last = words.words["fills_last"]
    if not last or not any(token.plain in last for token in tokens):
        return tokens
    made, lead = list(tokens), str(words.data["make_up"][-1])
    for at in range(len(tokens) - 1, 1, -1):
        begins = next((n for n in range(at - 1, max(-1, at - _MOST_FILL), -1) if tokens[n].plain in words.words["fills_to"]), None)
        if tokens[at].plain in last and begins is not None and tokens[begins + 1].number is not None:
            made[begins] = replace(tokens[begins], plain=lead, stem=lead)
            del made[at]
    return made


def with_orders(tokens: Sequence[Token], words: Lexicon) -> list[Token]:
    """Returns tokens with the gerunds after “start by” and “before” as imperatives, without the “start by”: “start by bringing” becomes “bring”, “before filtering” “before filter”."""
    if not (words.says("before_words", tokens) or words.says("starts_by", tokens)):
        return list(tokens)
    made, gone = list(tokens), set[int]()
    for at, token in enumerate(tokens):
        base = words.gerunds.get(token.plain.rpartition("-")[2]) if at and token.kind == "word" else None
        if base is None:
            continue
        begins = next((start for start in range(max(0, at - _MOST_LEAD), at) if _leads_to(tokens, start, at, words, "starts_by")), None)
        if begins is not None:
            # What leads to the verb says nothing that is to be done.
            gone.update(range(begins, at))
        if begins is not None or any(_leads_to(tokens, start, at, words, "before_words") for start in range(max(0, at - _MOST_LEAD), at)):
            made[at] = replace(token, plain=base, stem=base)
    return [token for at, token in enumerate(made) if at not in gone] if gone else made


def _leads_to(tokens: Sequence[Token], start: int, end: int, words: Lexicon, section: str) -> bool:
    """Returns True if a phrase of a section of the lexicon starts at one position and ends at another."""
    found = words.at(section, tokens, start)
    return found is not None and start + found[0] == end


def _against(tokens: Sequence[Token], words: Lexicon) -> bool:
    return any(token.plain in words.words["with"] for token in tokens)


def _part_in(token: Token, words: Lexicon) -> Numeral | None:
    """Returns the number of one token, in figures or in a word."""
    value = words.data["numbers"].get(token.plain)
    return token.number or (Numeral(float(value)) if value else None)


def sentences(tokens: Sequence[Token]) -> Iterator[Sequence[Token]]:
    """Yields the sentences of a row of tokens: they end at a full stop, unless it belongs to a shortened word."""
    begin = 0
    for at, token in enumerate(tokens):
        if at - begin >= MOST_TOKENS:
            # No sentence is so long: it is read in pieces, so that reading stays linear.
            yield tokens[begin:at]
            begin = at
        if token.plain not in _STOPS:
            continue
        before = tokens[at - 1] if at else None
        follows = tokens[at + 1] if at + 1 < len(tokens) else None
        glued = follows is not None and follows.start == token.end
        short = (
            token.plain == "." and before is not None and before.plain in _SHORT and follows is not None and not follows.text[:1].isupper()
        )
        # “Spirit 200 ml. 10 days.”
        short = short and not (before is not None and before.plain in _MEASURES and follows is not None and follows.number is not None)
        if follows is not None and follows.plain == ")":
            # “(no pith!)”
            continue
        if glued and token.plain == "." and follows is not None and follows.kind != "mark" and not follows.text[:1].isupper():
            continue
        if not short:
            if at > begin:
                yield tokens[begin:at]
            begin = at + 1
    if begin < len(tokens):
        yield tokens[begin:]


_MEASURES = frozenset({"g", "kg", "ml"})
"""Units that are shortened without a point, so that one before a number ends a sentence."""
_SHORT = frozenset(
    {
        "oz",
        "tbsp",
        "tsp",
        "approx",
        "ca",
        "lb",
        "lbs",
        "pt",
        "qt",
        "fl",
        "min",
        "mins",
        "hr",
        "hrs",
        "no",
        "deg",
        "c",
        "e.g",
        "g",
        "kg",
        "ml",
        "env",
        "aprox",
        "ungef",
        "el",
        "tl",
        "cdta",
        "cda",
        "std",
        "temp",
        "vol",
        "circa",
    }
)
