"""A text as blocks: title, headings, lines of the list, sentences of the method, claims and notes, without bullets, numbers and markup."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from ..written.quantities import MEASURED
from ..written.tokens import Token, tokens_of
from .claim_rows import ClaimRows
from .list_rows import FEW, MOST_LIST, ListRows
from .rows import bare, sentences, with_fills, with_orders, with_ratios
from .syrup_parts import with_syrup_parts
from .tables import without_tables
from .text_reading import TextReading
from .titles import Titles
from .verbs import VerbFinder

BlockKind = Literal["title", "heading", "list", "method", "claim", "note"]
_MOST_HEADING = 6
"""Words of a heading [count]."""


@dataclass(frozen=True, slots=True)
class Block:
    """A row of tokens with what it is; `line` is the number of its line in the text, from 1."""

    kind: BlockKind
    line: int
    tokens: Sequence[Token]
    section: str = ""


class Layout:
    """Tells what each line of a text is."""

    def __init__(self, reading: TextReading, verbs: VerbFinder) -> None:
        self._words, self._quantities, self._knows, self._verbs = reading.words, reading.quantities, reading.knows, verbs
        self._reading, self._names = reading, reading.names
        self._rows = ListRows(reading, verbs)
        self._told_of = ClaimRows(reading, verbs)
        self._titles = Titles(reading, verbs, self._told_of)
        self._section = ""
        self._seen = False
        self._methods = 0

    def blocks(self, text: str) -> Iterator[Block]:
        """Yields the blocks of a text in their order."""
        rows: list[tuple[int, list[Token]]] = []
        whole = tokens_of(text.replace("º", "°"))
        offset = at = 0
        for number, raw in enumerate(text.split("\n"), 1):
            begin, offset = at, offset + len(raw) + 1
            while at < len(whole) and whole[at].start < offset:
                at += 1
            kept = bare(whole[begin:at])
            if kept and raw.lstrip().startswith("+"):
                # “+ juice, stir” adds it; a bullet is taken off where no step stands before it.
                kept = [replace(kept[0], text="+", plain="+", stem="+", kind="mark", number=None, end=kept[0].start), *kept]
            kept = with_orders(with_ratios(with_fills(self._unlabelled(kept), self._words), self._words), self._words)
            kept = with_syrup_parts(self._reading, kept)
            if kept and not all(token.plain in "-–—|:=+." for token in kept):
                rows.append((number, kept))
        rows = list(without_tables(rows, self._words))
        headed = self._groups(rows)
        for position, (number, tokens) in enumerate(rows):
            if position in headed:
                yield Block("heading", number, tokens, self._section)
                self._section = "list"
                continue
            added = tokens[0].plain == "+" and (self._methods or tokens[1].plain in self._words.words["food_verbs"])
            row = tokens[1:] if tokens[0].plain == "+" and not added else tokens
            after, below = rows[position + 1] if position + 1 < len(rows) else (number, ())
            yield from self._line(number, row, below, apart=after > number + 1)

    def _groups(self, rows: Sequence[tuple[int, list[Token]]]) -> set[int]:
        """Returns the positions of rows that name a group of the list: two or more short ones without an amount, each set apart and followed by amounts at once."""
        found = {
            at
            for at in range(1, len(rows) - 1)
            if rows[at][0] > rows[at - 1][0] + 1
            and rows[at + 1][0] == rows[at][0] + 1
            and len(rows[at][1]) <= FEW
            and not self._quantities.all(rows[at][1])
            and self._titles.measures(rows[at + 1][1])
        }
        return found if len(found) > 1 else set()

    def begins_a_recipe(self, tokens: list[Token], follows: list[Token] | None, *, told: bool) -> bool:
        """Returns True for a row that can only be the title of another recipe, by itself and by the row that follows it; `told` where a method stands before it."""
        called = self._words.at("title_words", tokens, 0)
        if called and called[0] + 1 < len(tokens) and tokens[called[0]].plain == ":":
            return True
        names = self.names_a_prep(tokens[:-1] if tokens[-1].plain == ":" else tokens)
        if tokens[0].plain in self._words.words["for_the"] or (not names and self._heading(tokens)[0]):
            return False
        title, rest = self._titles.of(tokens, more=True)
        title = title[:-1] if title and title[-1].plain == ":" else title
        if not title or title[0].kind != "word" or not self._titles.is_title(title) or self._verbs.first(title) is not None:
            return False
        named = self.names_a_prep(title)
        if not (title[0].text[0].isupper() or (told and named)) or self.kinds_of(title) - {"list", "note"}:
            return False
        if rest:
            return told and named
        return follows is not None and (
            not self.kinds_of(follows).isdisjoint(("list", "method") if told else ("list",))
            or self._told_of.claims(follows)
            or bool(self._heading(follows)[0])
        )

    def names_a_prep(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a row that says what a recipe makes: a syrup, a cordial."""
        return self._words.says("preps", tokens)

    def measures(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a row with an amount in it."""
        return any(q.kind in MEASURED for q in self._quantities.all(tokens))

    def kinds_of(self, tokens: list[Token]) -> set[BlockKind]:
        """Returns what a row holds by itself, wherever it stands."""
        self._section, self._methods = "", 0
        return {block.kind for block in self._content(0, tokens)}

    def _unlabelled(self, tokens: list[Token]) -> list[Token]:
        """Returns a line without what numbers it: “Day 2: …”, “Step 3 - …”."""
        labelled = (
            len(tokens) > 3
            and tokens[0].plain in self._words.words["line_labels"]
            and tokens[1].number is not None
            and tokens[2].plain in (":", "-", "–", "—", ".", ")", ",")
        )
        return tokens[3:] if labelled else tokens

    def _line(self, number: int, tokens: list[Token], below: Sequence[Token], *, apart: bool) -> Iterator[Block]:
        cells = _cells(tokens)
        if len(cells) > 1 and (self._told_of.claims(cells[0]) or self._skips(cells[0])):
            for cell in cells:
                yield Block("claim" if self._told_of.claims(cell) else "note", number, cell, self._section)
            return
        tokens = [token for token in tokens if token.plain != "|"]
        called = self._words.at("title_words", tokens, 0)
        if called and called[0] + 1 < len(tokens) and tokens[called[0]].plain == ":" and not self._seen:
            self._seen = True
            yield Block("title", number, tokens[called[0] + 1 :])
            return
        head, rest = self._heading(tokens)
        if head:
            yield Block("heading", number, head, self._section)
            if not rest:
                return
            tokens = rest
        if not self._seen and not head:
            self._seen = True
            made = self._titles.made_for(tokens)
            if made is not None:
                yield Block("claim", number, tokens[: made[0]], self._section)
                yield Block("title", number, tokens[made[0] : made[1]])
                yield from self._content(number, tokens[made[1] + (tokens[made[1]].kind == "mark") :])
                return
            title, rest = self._titles.of(tokens, more=bool(below), below=below, apart=apart)
            if title:
                yield Block("title", number, title)
                if not rest:
                    return
                tokens = rest
        self._seen = True
        yield from self._content(number, tokens)

    def _heading(self, tokens: list[Token]) -> tuple[list[Token], list[Token]]:
        """Returns (heading, what follows it in its line); an empty heading for a line without one."""
        colon = next((at for at, token in enumerate(tokens[: _MOST_HEADING + 2]) if token.plain == ":"), None)
        before = tokens[:colon] if colon is not None else tokens
        said = " ".join(token.plain for token in before).rstrip(".")
        known = said in self._words.words["headings"] or said in self._words.words["skip_headings"]
        first = self._words.at("headings", tokens, 0)
        if colon is None:
            for_the = (
                bool(tokens)
                and tokens[0].plain in self._words.words["for_the"]
                and len(tokens) <= _MOST_HEADING
                and not self._quantities.all(tokens)
                and not self._verbs.first(tokens)
            )
            if not known and not for_the:
                return [], tokens
        elif (
            not known
            and (colon < len(tokens) - 1 or len(before) > _MOST_HEADING or self._quantities.all(before))
            and not (first and first[0] == len(before))
        ):
            return [], tokens
        if colon is not None and colon < len(tokens) - 1 and self._words.phrases["claims"].at(tokens, 0):
            return [], tokens
        self._enter(said)
        return list(before), tokens[colon + 1 :] if colon is not None else []

    def _enter(self, said: str) -> None:
        words = self._words.words
        if said in words["method_headings"]:
            self._section = "method"
        elif said in words["skip_headings"] and said not in words["list_headings"]:
            self._section = "skip"
        elif said in words["note_words"]:
            self._section = "notes"
        else:
            self._section = "list" if said in words["list_headings"] else ""

    def _skips(self, tokens: Sequence[Token]) -> bool:
        return bool(tokens) and self._words.at("skip_headings", tokens, 0) is not None

    def _content(self, number: int, tokens: list[Token]) -> Iterator[Block]:
        words = self._words
        if self._section in ("skip", "notes"):
            yield Block("note", number, tokens, self._section)
            return
        noted = words.at("note_words", tokens, 0)
        if noted and noted[0] < len(tokens) and tokens[noted[0]].plain == ":":
            yield Block("note", number, tokens, self._section)
            return
        told = [sentence for sentence in sentences(tokens) if not self._told_of.limits(sentence)]
        if not told:
            yield Block("note", number, tokens, self._section)
            return
        if self._told_of.claimed(told[0]):
            for sentence in told:
                # “Keep in the dark for 3 months. Strain.”: what tells a step stays one.
                claims = self._told_of.claimed(sentence) or self._verbs.first(sentence, claims=True) is None
                yield from self._told(number, sentence) if claims else self._list_or_method(number, [*sentence], [sentence])
        elif not self._titles.measures(told[0]) and any(self._told_of.claimed(sentence) for sentence in told[1:]):
            # “Ready. Makes 2 L.”
            for sentence in told:
                yield from self._content(number, [*sentence])
        else:
            yield from self._list_or_method(number, tokens, told)

    def _list_or_method(self, number: int, tokens: list[Token], told: Sequence[Sequence[Token]]) -> Iterator[Block]:
        """Yields what a row is that claims nothing; `told` are its sentences."""
        if self._told_of.at_most(tokens) or self._told_of.for_one(tokens):
            yield Block("claim", number, tokens, self._section)
            return
        if self._listed(tokens):
            cut = self._timed_tail(tokens)
            yield Block("list", number, tokens[:cut], self._section)
            if cut < len(tokens):
                yield Block("method", number, tokens[cut:], self._section)
            return
        added = (tokens[0].plain == "+" and self._methods > 0) or self._rows.is_rate(tokens)
        if added or self._section == "method" or any(self._verbs.first(sentence) for sentence in told) or self._told_of.timed(tokens):
            self._methods += 1
            for sentence in self._told_of.unclaimed(told):
                # “Label. Date.”
                orders = (len(sentence) == 1 and self._words.at("verbs", sentence, 0) is not None) or self._only_names(sentence)
                listed = len(told) > 1 and self._section != "method" and not orders and self._listed([*sentence])
                if self._told_of.claimed(sentence):
                    yield from self._told(number, sentence)
                else:
                    kind: BlockKind = (
                        "claim"
                        if self._told_of.at_most([*sentence]) or self._told_of.for_one([*sentence])
                        else "list"
                        if listed
                        else "method"
                    )
                    yield Block(kind, number, sentence, self._section)
            return
        if self._methods and len(tokens) > FEW:
            # A sentence among steps: whether it tells one is for whoever reads the method.
            for sentence in told:
                yield Block("method", number, sentence, self._section)
            return
        short = len(tokens) <= MOST_LIST and (not self._methods or self._words.says("to_taste", tokens))
        yield Block("list" if short and (self._section == "list" or self._knows(tokens)) else "note", number, tokens, self._section)

    def _only_names(self, tokens: Sequence[Token]) -> bool:
        """Returns True for a name alone behind a step: the “lemon juice” of “Let it drip. Lemon juice. Bottle.”"""
        named = next(self._names.mentions(tokens), None) if self._methods else None
        return named is not None and named.end - named.start == len(tokens)

    def _timed_tail(self, tokens: Sequence[Token]) -> int:
        """Returns the position of the temperature and time at the end of a line, such as the “90 C” of “10 g tea / 300 g water 90 C 4 min”; the number of its tokens if there are none."""
        cut, timed = len(tokens), False
        quantities = self._quantities.all(tokens)
        for quantity in reversed(quantities):
            if quantity.kind not in ("minutes", "celsius") or quantity.end != cut:
                break
            cut, timed = quantity.start, timed or quantity.kind == "minutes"
        if cut and tokens[cut - 1].plain in self._words.words["made_for"]:
            # “300 g cashews, soaked for 4 hours”
            return len(tokens)
        measured = any(q.kind in MEASURED and q.end <= cut for q in quantities)
        written = cut < len(tokens) and tokens[cut].number is not None
        named = timed and written and measured and next(self._names.mentions(tokens[:cut]), None) is not None
        return cut if named else len(tokens)

    def _told(self, number: int, tokens: Sequence[Token]) -> Iterator[Block]:
        """Yields the claims of a sentence: “makes a litre and a half, keeps a month” are two."""
        cuts = [
            0,
            *(at + 1 for at, token in enumerate(tokens) if token.plain in (",", "&", "and") and self._told_of.claims(tokens[at + 1 :])),
            len(tokens) + 1,
        ]
        for begin, end in pairwise(cuts):
            row = tokens[begin : end - 1]
            if row:
                yield Block("claim" if self._told_of.claims(row) else "note", number, row, self._section)

    def _listed(self, tokens: list[Token]) -> bool:
        return self._rows.is_list(tokens, in_method=self._section == "method", told=self._methods > 0, listed=self._section == "list")


def _cells(tokens: Sequence[Token]) -> list[list[Token]]:
    rows: list[list[Token]] = [[]]
    for token in tokens:
        if token.plain == "|":
            rows.append([])
        else:
            rows[-1].append(token)
    return [row for row in rows if row]
