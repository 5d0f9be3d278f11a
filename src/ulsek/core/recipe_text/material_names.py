"""The materials that words name: exactly, by their last words, as a part of a fruit, by the nearest spelling; or as what they seem to be."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from ..base.units import METRIC
from ..base.vocabulary import keys
from ..written.lexicon import Lexicon, Phrases, lexicon
from ..written.row_memo import RowMemo
from ..written.tokens import Token, stem
from .spellings import PARTS, near_names, part_key, shipped_names, short_names

_TEA = "black_tea"
"""Key of the material that “tea” alone names."""
_INFUSED = ("leaf", "herb", "flower", "spice", "root")
"""Kinds of material of which teas are made."""


_FORMS = ("puree", "jam", "concentrate")
"""Forms of a whole fruit that are named together with it."""


@dataclass(frozen=True, slots=True)
class Named:
    """A material as words name it, in the tokens from `start` up to `end`.

    `key` is None if nothing known has this name; `said` are the words that name it; `beside` those before them that may make it another thing: “coconut” of
    “coconut rum”. `part` is what of a fruit is meant: zest, peel, juice, pulp, flesh. `near` are known materials of nearly this spelling or kind; `vague` is the
    kind of thing where only that is named (“acid”, “zest”).
    """

    start: int
    end: int
    key: str | None
    said: str
    beside: tuple[str, ...] = ()
    part: str = ""
    near: tuple[str, ...] = ()
    vague: str = ""
    form: str = ""

    def is_kind_of(self, other: Named) -> bool:
        """Returns True if this material is a variety of another one: blood oranges are oranges."""
        return other.key != self.key and other.said.lower().split()[-1:] == self.said.lower().split()[-1:]


@dataclass(frozen=True, slots=True)
class MaterialNames:
    """Every name of a house's materials, in one language. `known` are the materials in the open form."""

    words: Lexicon
    known: Mapping[str, Any]
    phrases: Phrases
    own: Phrases
    _memo: list[RowMemo[Named]] = field(default_factory=list, compare=False, repr=False)

    def exact(self, tokens: Sequence[Token], position: int) -> tuple[int, str] | None:
        """Returns (number of tokens, key) of the longest name that begins at a position."""
        found = [hit for hit in (self.phrases.at(tokens, position), self.own.at(tokens, position)) if hit and hit[1] in self.known]
        return max(found, default=None)

    def called(self, key: str) -> frozenset[str]:
        """Returns the names of one word that a material has, in the singular."""
        return short_names(self.words.language).get(key, frozenset())

    def mentions(self, tokens: Sequence[Token]) -> Iterator[Named]:
        """Returns the materials named in a row of tokens, from left to right, without overlap."""
        memo = self._memo[0] if self._memo else None
        if memo is None:
            memo = RowMemo(lambda row: tuple(self._mentions(row)))
            self._memo.append(memo)
        return iter(memo.of(tokens))

    def _mentions(self, tokens: Sequence[Token]) -> Iterator[Named]:
        position = 0
        while position < len(tokens):
            gear = self.words.at("gear", tokens, position)
            found = self.exact(tokens, position) if not gear else None
            if gear:
                position += gear[0]
            elif found and self._says_a_form(tokens, position + found[0]):
                # “Almond syrup” is no almond.
                position += found[0] + 1
            elif found and (
                self._cuts_an_amount(tokens, position + found[0] - 1)
                or self._describes_more(tokens, position, found[0])
                or (found[0] == 1 and tokens[position].plain in self.words.words["never_things"])
            ):
                # “Or it goes bitter” names no bitters.
                position += 1
            elif found:
                length, key = found
                yield self._with_part(tokens, Named(position, position + length, key, _said(tokens, position, position + length)))
                position += length
            else:
                position += 1

    def _cuts_an_amount(self, tokens: Sequence[Token], last: int) -> bool:
        """Returns True if the last token of a name is the number of a following amount: the “20” of “saline 20 g kombu” is not the strength of “saline 20”."""
        unit = tokens[last + 1] if last + 1 < len(tokens) else None
        return tokens[last].number is not None and unit is not None and unit.plain in METRIC

    def _describes_more(self, tokens: Sequence[Token], at: int, length: int) -> bool:
        """Returns True for a colour before another word: the “white” of “white miso” is no egg white, though “whites” are."""
        behind = tokens[at + 1] if at + 1 < len(tokens) else None
        return length == 1 and tokens[at].plain in self.words.words["plain_words"] and behind is not None and behind.kind == "word"

    def _says_a_form(self, tokens: Sequence[Token], at: int) -> bool:
        """Returns True if the word at a position makes another material of the name before it: a form of syrup, or the kernel of a fruit."""
        found = self.words.at("forms", tokens, at)
        inner = at < len(tokens) and tokens[at].plain in self.words.words["inner_words"]
        behind = tokens[at + 1].plain if at + 1 < len(tokens) else ""
        # “Cherries, stones removed”
        return (found is not None and found[1] == "syrup") or (inner and behind not in self.words.words["removed_words"])

    def _with_part(self, tokens: Sequence[Token], named: Named) -> Named:
        """The part of a fruit that words before or after name: “zest of 3 limes” is cut before, “lime husks” here."""
        after = self.words.at("part_words", tokens, named.end)
        if after and after[1] in (*PARTS, "pulp", "flesh") and named.key is not None:
            part = str(after[1])
            key = part_key(named.key, part, self.known)
            if key is not None:
                return replace(named, key=key, end=named.end + after[0], part=part, said=_said(tokens, named.start, named.end + after[0]))
        return self._made_of(tokens, named)

    def _made_of(self, tokens: Sequence[Token], named: Named) -> Named:
        """Returns the named fruit with the form (purée, jam, concentrate) of an adjacent word: “mango purée”, “purée de mangue”. Unchanged if there is none."""
        next_word = tokens[named.end].plain if named.end < len(tokens) else ""
        behind = self.words.at("forms", tokens, named.end) if next_word in self.words.words["forms"] else None
        if behind and behind[1] in _FORMS:
            end = named.end + behind[0]
            return replace(named, end=end, form=str(behind[1]), said=_said(tokens, named.start, end))
        of = named.start > 1 and tokens[named.start - 1].plain in self.words.words["of"]
        before = self.words.at("forms", tokens, named.start - 2) if of else None
        if before is None or before[0] != 1 or before[1] not in _FORMS:
            return named
        start = named.start - 2
        return replace(named, start=start, form=str(before[1]), said=_said(tokens, start, named.end))

    def named(self, tokens: Sequence[Token]) -> Named | None:
        """Returns the material that a row of tokens names as a whole, as in a line of a list; None for a row without a word."""
        head = _head(tokens, self.words)
        words = [token for token in head if token.kind == "word"]
        if not words:
            return None
        found = [item for item in self.mentions(head) if item.end > item.start]
        core = self._core(head)
        last = next((item for item in reversed(found) if item.end >= core[1] or self._only_parts(head[item.end : core[1]])), None)
        part = self._part_of(tokens)
        if last is None:
            # “Cordial, gooseberry”, “sugar (white)”: what stands behind the comma may name it too.
            strange = self._unnamed(tokens, head, core, found, part)
            dried = any(token.plain in self.words.words["dried_words"] for token in tokens)
            if strange is not None and dried and strange.key is None and not strange.vague and not strange.said.startswith("dried"):
                return replace(strange, said=f"dried {strange.said}")
            return strange
        before = next((item for item in found if item.end == last.start and item.key), None)
        if last.key == _TEA and before is not None and self.known[str(before.key)].get("kind") in _INFUSED:
            # “Camomile tea bags”
            last = replace(before, end=last.end, said=f"{before.said} {last.said}")
        lexical = self.words.words
        ends = lexical["ends_name"] | lexical["persons"] | lexical["want_words"]
        joint = next((at + 1 for at in range(last.start - 1, core[0] - 1, -1) if head[at].plain in ends), core[0])
        beside = tuple(
            token.plain
            for token in head[joint : last.start]
            if token.kind == "word"
            and not self._describes(token)
            and token.stem not in self.words.words["of"]
            and not self._is_share(token)
        )
        form = last.form or self._form(head, last)
        apart = self._no_fruit(tokens)
        if apart and self.known[last.key or ""].get("kind") in ("fruit", "vegetable"):
            # A peach's leaf is no peach.
            return Named(core[0], core[1], None, f"{last.said} {apart}")
        if part and last.key is not None and not last.part:
            key = part_key(last.key, part, self.known)
            if key is not None:
                last = replace(last, key=key, part=part)
            elif part in PARTS and self.known[last.key or ""].get("kind") in ("fruit", "vegetable"):
                # A banana's peel is no banana: nobody knows it here.
                base = next((name for name in (f"{str(last.key).rsplit('_', 1)[0]}_{part}",) if name in self.known), None)
                if base is not None:
                    # “Celery jce”, where the stalk and the juice are kept.
                    return replace(last, start=core[0], key=base, part=part, beside=beside, form=form)
                whole = " ".join([*(token.text for token in head[last.start : last.end - 1]), head[last.end - 1].stem])
                return Named(core[0], core[1], None, f"{whole} {part}", part=part)
        powdered = str(last.key).endswith("_fresh") and any(token.plain in self.words.words["powder_words"] for token in tokens)
        if last.key is not None and (powdered or any(token.plain in self.words.words["dried_words"] for token in tokens)):
            last = self._dried(last)
        return replace(last, start=core[0], beside=beside, form=form)

    def _no_fruit(self, tokens: Sequence[Token]) -> str:
        """Returns “leaf”, “flower” or “stone” if tokens name that part of a plant, as in “peach leaves” or “huesos de cereza”; "" if not."""
        found = self.words.phrases["part_words"].within(tokens)
        if found is None or found[2] not in ("leaf", "flower", "stone"):
            return ""
        # “Cerezas sin hueso” are cherries.
        behind = tokens[found[0] + found[1] :]
        return str(found[2]) if found[2] != "stone" or (behind and behind[0].stem in self.words.words["of"]) else ""

    def _is_share(self, token: Token) -> bool:
        """Returns True for a fraction in words, such as “three-quarters”."""
        return "-" in token.plain and any(stem(part) in self.words.words["fractions"] for part in token.plain.split("-"))

    def _dried(self, named: Named) -> Named:
        """What is dried is another thing than the fresh one: the dried one where it is known, else unknown."""
        key = str(named.key)
        kind = self.known[key].get("kind")
        base = key.removesuffix("_fresh")
        found = next((name for name in (f"dried_{base}", f"{base}_dried", f"{key}_dried") if name in self.known), None)
        if found is not None:
            return replace(named, key=found)
        # “Ground ginger” is dried too.
        fresh = (kind in ("fruit", "vegetable") or base != key) and "dried" not in key and "dry" not in key
        return Named(named.start, named.end, None, f"dried {named.said}") if fresh else named

    def _part_of(self, tokens: Sequence[Token]) -> str:
        found = self.words.phrases["part_words"].within(tokens)
        if found is None or found[2] not in PARTS:
            return ""
        # “2 lemons, zested and sliced” are lemons still.
        behind = tokens[found[0] + found[1] : found[0] + found[1] + 2]
        if found[0] and tokens[found[0] - 1].plain in self.words.words["with"]:
            # “Quinces, grated with skin”
            return ""
        if behind and behind[0].plain in self.words.words["removed_words"]:
            # “Watermelon, rind removed”
            return ""
        more = len(behind) == 2 and behind[0].plain in self.words.words["and"] and self._describes(behind[1])
        return "" if more and behind[1].plain not in self.words.words["part_words"] else str(found[2])

    def _form(self, head: Sequence[Token], last: Named) -> str:
        """What is made of it, where a word after its name says so: syrup, liqueur, extract."""
        for position in range(last.end, len(head)):
            found = self.words.at("forms", head, position)
            if found:
                return str(found[1])
        for position in range(last.start):
            found = self.words.at("forms", head, position)
            behind = position + found[0] if found else len(head)
            # “Essence of ginger”
            of = behind < last.start and head[behind].plain in self.words.words["of"]
            if found and (found[1] == "tea" or of):
                return str(found[1])
        return ""

    def _describes(self, token: Token) -> bool:
        describes = self.words.words["describes"]
        parts = token.plain.split("-") if "-" in token.plain else ()
        return (
            token.stem in describes
            or token.plain in describes
            or token.kind != "word"
            or (bool(parts) and all(part in describes for part in parts))
        )

    def _only_parts(self, tokens: Sequence[Token]) -> bool:
        """Returns True if all tokens are adjectives or name a peel or zest: the “peels” of “pineapple peels”."""
        skins = {word for word, part in self.words.data["part_words"].items() if part in ("peel", "zest")}
        return all(token.plain in skins or token.stem in skins or self._only_describes([token]) for token in tokens)

    def _only_describes(self, tokens: Sequence[Token]) -> bool:
        return all(self._describes(token) or token.stem in self.words.words["forms"] for token in tokens)

    def _core(self, head: Sequence[Token]) -> tuple[int, int]:
        """Returns where the name begins and ends, without what describes it before and after."""
        start, end = 0, len(head)
        joints = self.words.words["and"]
        while start < end and self._describes(head[start]) and not self.exact(head, start):
            start += 1
        while (
            end > start
            and (
                self._describes(head[end - 1])
                or (end < len(head) and head[end - 1].plain in joints)
                or (end - start > 1 and head[end - 1].plain in self.words.words["cut_into"])
            )
            and not any((hit := self.exact(head, at)) and at + hit[0] >= end for at in range(max(start, end - 5), end))
        ):
            end -= 1
        return (start, end) if end > start else (0, len(head))

    def _unnamed(
        self, tokens: Sequence[Token], head: Sequence[Token], core: tuple[int, int], found: Sequence[Named], part: str
    ) -> Named | None:
        inside = head[core[0] : core[1]]
        said = _said(head, *core)
        vague = self.words.at("unnamed", head, core[1] - 1) if core[1] else None
        if vague and core[1] - core[0] <= (2 if vague[1] in PARTS else 1):
            behind = next(iter(self.mentions(tokens[core[1] :])), None)
            if behind is not None and behind.key is not None:
                key = (part_key(behind.key, part, self.known) if part else None) or behind.key
                return replace(behind, start=core[0], end=core[1], key=key, part=part, said=f"{behind.said} {said}")
            telling = [token for token in inside if token.kind == "word" and not self._describes(token)]
            short = near_names(telling, self.words.language, self.known, part, alone=False) if len(inside) > 1 else ()
            if short:
                return Named(core[0], core[1], short[0], said, part=part, near=short)
            return Named(core[0], core[1], None, said, vague=str(vague[1]), part=part)
        fruit = next((item for item in found if part and item.key and part_key(item.key, part, self.known)), None)
        if fruit is not None and fruit.key is not None:
            return replace(fruit, key=part_key(fruit.key, part, self.known), part=part)
        for begin in range(*core):
            known = self.exact(head, begin)
            if known and begin + known[0] >= core[1] and self._only_describes(head[core[0] : begin]):
                # “Fresh ginger juice” is ginger juice, though “fresh ginger” is another thing.
                return Named(begin, core[1], str(known[1]), _said(head, begin, core[1]))
        telling = [token for token in inside if token.kind == "word" and not self._describes(token)]
        near = near_names(telling, self.words.language, self.known, part, alone=len(telling) == len(inside))
        # Fresh tarragon is not its essential oil.
        near = tuple(key for key in near if self.known[key].get("kind") != "oil" or self.words.says("forms", inside))
        if near:
            return Named(core[0], core[1], near[0], said, near=near)
        related = tuple(item.key for item in found if item.key)
        return Named(core[0], core[1], None, said, near=related)


def _said(tokens: Sequence[Token], start: int, end: int) -> str:
    return " ".join(token.text for token in tokens[start:end])


def _head(tokens: Sequence[Token], words: Lexicon) -> Sequence[Token]:
    """Returns the tokens before the first comma, bracket or dash, or before “split down the middle”: the name, without what is done to it."""
    for position, token in enumerate(tokens):
        if position and token.plain in (",", "(", "[", ";", ":", "–", "—", "*", "|"):
            return tokens[:position]
        behind = tokens[position + 1].plain if position + 1 < len(tokens) else ""
        if (
            position
            and token.plain in words.words["parted_words"]
            and (behind in words.words["ends_name"] or behind in words.words["how_parted"])
        ):
            return tokens[:position]
    return tokens


def material_names(language: str, known: Mapping[str, Any]) -> MaterialNames:
    """Returns every name of these materials in a language, the house's own materials by their names."""
    shipped = shipped_names(language)[0]
    listed = set(keys("materials"))
    own = {str(body.get("name") or key): key for key, body in known.items() if key not in listed}
    return MaterialNames(lexicon(language), known, shipped, Phrases(own.items()))
