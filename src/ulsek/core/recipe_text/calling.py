"""How the method calls the things of the list: by which words, with which amounts, as which part."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from ..base.vocabulary import plain
from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token, stem, tokens_of
from .action import Action
from .ingredient import LEAST_GRAMS, Ingredient
from .material_names import Named
from .rows import ratio_in
from .spellings import fruit_of
from .text_reading import TextReading

_INITIALS = 3
"""Words of a name from which it may be called by their first letters, at least [count]: “ofw”."""
_BESIDE = 2
"""Largest distance from “ice” to the water that is iced [tokens]."""
_PART_LETTERS = 4
"""Letters of a part of a compound by which a thing may be called, at least [count]."""
_BEGINNING = 5
"""Letters of a shortened name, at least [count]."""
_FIRST_LETTERS = 3
"""Letters of the first part of a compound, at least [count]."""
SAME = 0.06
"""Two amounts of one thing that differ by no more than this share are one amount, said twice."""


class Calling:
    """Knows the things of the list by their words. `listed` are those that the list held."""

    def __init__(self, reading: TextReading) -> None:
        self._reading, self._words = reading, reading.words
        self.listed = list(reading.listed)
        self._mentions: dict[tuple[int, int], list[Named]] = {}
        self._name_them()

    def _name_them(self) -> None:
        """Finds the words by which the method may call each ingredient: its own, or those of its kind where nothing else has them."""
        own = {id(item): self.words_of(item) for item in self.listed}
        for item in self.listed:
            others = set().union(*(own[id(other)] for other in self.listed if other is not item and other.key != item.key))
            unique = own[id(item)] - others
            said = {token.stem for token in tokens_of(item.named.said)}
            # Water beside orange flower water is called water still.
            item.called = frozenset((unique | said if len(said) == 1 else unique) or own[id(item)])
        taken = set().union(*(item.called for item in self.listed))
        for group, kinds in self._words.data.get("group_words", {}).items():
            word = plain(group)
            several = [item for item in self.listed if self._reading.material(item.key).kind in kinds]
            if word in taken or stem(word) in taken:
                # “Peels in the spirits”, where one of them is called spirit.
                for item in several if len(several) > 1 else ():
                    item.called |= {f"{word}s"}
                continue
            for item in several:
                item.called |= {word, stem(word)}
        self._name_parts(taken)
        said = {token.stem for token in tokens_of(self._reading.text) if token.kind == "word"} - taken
        for item in self.listed:
            # “Put the currants in a pan”, where blackcurrants are listed.
            ends = {word[at:] for word in item.called for at in range(_FIRST_LETTERS, len(word) - _PART_LETTERS)}
            item.called |= {word for word in ends & said if word not in self._words.words["plain_words"]}
            # “Chuck the strawbs in a bag”
            begins = {word[:at] for word in item.called for at in range(_BEGINNING, len(word))} & said
            item.called |= {word for word in begins if not self._is_another(word, item)}

    def _name_parts(self, taken: set[str]) -> None:
        """Adds words to `called`: “pulp” and “flesh” to the only fruit of a list, and the word for its pieces (“leaves”) to an unknown material. `taken` are the words
        that refer to other ingredients."""
        fruits = [item for item in self.listed if self._reading.material(item.key).kind in ("fruit", "vegetable")]
        if len(fruits) == 1:
            flesh = {plain(word) for word, part in self._words.data["part_words"].items() if part in ("pulp", "flesh")}
            fruits[0].called |= flesh - taken
        pieces = self._words.words["pieces"]
        for item in self.listed:
            if item.own is not None:
                own = {word for token in tokens_of(item.text) if token.stem in pieces for word in (token.stem, token.plain)}
                item.called |= own - taken

    def _is_another(self, word: str, item: Ingredient) -> bool:
        """Returns True if a word is the name of another material than the ingredient's: “lemon”, which is the beginning of lemongrass."""
        named = self._reading.names.named(tokens_of(word))
        return named is not None and (bool(named.vague) or named.key not in (None, item.key))

    def add(self, action: Action, *made: Ingredient) -> None:
        """Adds ingredients that only the method names to an action, with the words by which the method refers to them."""
        for item in made:
            item.called = frozenset(self.words_of(item))
            action.lines.append(item)

    def words_of(self, item: Ingredient) -> set[str]:
        said = [*tokens_of(item.named.said), *tokens_of(self._reading.material(item.key).name.split(",")[0])]
        found = {
            token.stem
            for token in said
            if token.kind == "word" and len(token.plain) > 2 and token.plain not in self._words.words["plain_words"]
        }
        # “Lime jc” is called by that, and “peach purée” purée as well.
        if item.named.part:
            found |= {token.stem for token in tokens_of(item.text) if self._words.at("part_words", [token], 0)}
        found |= {
            token.stem
            for token in tokens_of(item.text)
            if token.plain in self._words.words["forms"] or token.stem in self._words.words["forms"]
        }
        if self._reading.material(item.key).kind == "spice":
            # “The pepper” are pink peppercorns.
            found |= {stem(word) for word in item.key.split("_")}
        names = [token.plain for token in tokens_of(item.named.said) if token.kind == "word"]
        if len(names) >= _INITIALS:
            found.add("".join(name[0] for name in names))
        return (found or {token.stem for token in said}) | self._reading.names.called(item.key)

    def said_later(self, actions: Sequence[Action]) -> dict[int, int]:
        """Returns, by ingredient, the action that says its very amount: “the 600 ml water” goes in there and nowhere before."""
        found: dict[int, int] = {}
        for position, action in enumerate(actions):
            for quantity, named in self.pairs(action):
                item = self.the_one(named, quantity)
                if item is not None and self.equal(quantity, item) and not self.one_more(action, quantity):
                    found.setdefault(id(item), position)
        return found

    def names_no_juice(self, action: Action, item: Ingredient) -> bool:
        """Returns True if an action peels or zests and names no juice, so that “peel 12 limes” does not add a listed lime juice."""
        if action.verb not in ("zest", "peel"):
            return False
        hits = (self._words.at("part_words", action.tokens, at) for at in range(len(action.tokens)))
        said = any(hit and hit[1] == "juice" for hit in hits)
        return not said and all(named.key != item.key for named in self._reading.names.mentions(action.tokens))

    def one_more(self, action: Action, quantity: Quantity) -> bool:
        """Returns True if a quantity is added to the amount in the list instead of repeating it: “another 200 g of sugar”."""
        words = self._words.words["one_more"]
        return any(token.plain in words for token in action.tokens[max(0, quantity.start - 1) : quantity.start + 1])

    def another_is_meant(self, action: Action, item: Ingredient) -> bool:
        """Returns True if the action says the amount of another ingredient of the same material: “the sugar and 1/4 cup water”, where the list has water twice."""
        same = [other for other in self.listed if other is not item and other.key == item.key]
        said = [q for q, named in self.pairs(action) if named.key == item.key and q.kind in MEASURED] if same else []
        if not said and any(self._more_is_said(action, other, item) for other in same):
            # “Mix the gum and hot water”, where the list has hot water, and water.
            return True
        return bool(said) and not any(self.equal(q, item) for q in said) and any(self.equal(q, other) for q in said for other in same)

    def _more_is_said(self, action: Action, one: Ingredient, other: Ingredient) -> bool:
        """Returns True if an action says a word that only the line of the first of two ingredients has: the “hot” of hot water."""
        own = {token.stem for token in tokens_of(one.text) if token.kind == "word"} - {token.stem for token in tokens_of(other.text)}
        return any(token.stem in own and token.plain in self._words.words["describes"] for token in action.tokens)

    def pairs(self, action: Action) -> list[tuple[Quantity, Named]]:
        """Returns the amounts of an action with the material that each belongs to."""
        tokens, found = action.tokens, list[tuple[Quantity, Named]]()
        mentions = list(self._reading.names.mentions(tokens))
        free = sorted([*mentions, *self._strangers(tokens, mentions)], key=lambda item: item.start)
        ratio = ratio_in(tokens)
        # “Half a litre of 2:1 sugar syrup” counts no sugar.
        in_ratio = range(ratio[0], ratio[0] + ratio[1]) if ratio else range(0)
        for quantity in action.quantities:
            if quantity.kind not in (*MEASURED, "vague", "count", "percent", "parts") or quantity.start in in_ratio:
                continue
            # “A 70 cl bottle of gin”
            container = self._words.at("vague", tokens, quantity.end) if quantity.kind in MEASURED else None
            end = quantity.end + (container[0] if container else 0)
            # “3 ramas de canela”: what is counted is in the name.
            within = next((item for item in free if quantity.start < item.start < quantity.end <= item.end), None)
            after = within or next((item for item in free if item.start >= end and self.near(tokens, end, item.start)), None)
            before = next(
                (item for item in reversed(free) if item.end <= quantity.start and self.near(tokens, item.end, quantity.start)), None
            )
            # “Zest 25 g, sugar 700 g”: each name stands right before its amount.
            last = before is not None and before.end == quantity.start and after is not None and _parted(tokens[end : after.start])
            after = None if last else after
            # “Ginger juice 100”
            grams = (
                quantity.kind == "count" and quantity.amount.value >= LEAST_GRAMS and before is not None and before.end == quantity.start
            )
            named = after or (before if last or grams or quantity.kind in (*MEASURED, "percent") else None)
            if named is not None and after is not None and self._is_prep(tokens, quantity, named):
                continue
            if named is not None:
                free.remove(named)
                taken = self._part(tokens, quantity, named)
                if (
                    found
                    and not taken.part
                    and quantity.kind == found[-1][0].kind == "count"
                    and self._follows(tokens, found[-1], quantity)
                ):
                    # “The zest of two oranges and two limes”
                    taken = self._reading.part_of(named, found[-1][1].part) or taken
                found.append((quantity, taken))
        return found

    def _strangers(self, tokens: Sequence[Token], known: Sequence[Named]) -> Iterator[Named]:
        """Yields the listed ingredients of no known material whose whole name is among the tokens, outside the `known` ones: “another 1.5 g of the kudzu”."""
        for item in self.listed:
            said = [token.stem for token in tokens_of(item.named.said)] if item.own is not None and item.named.key is None else []
            for at in range(len(tokens) - len(said) + 1) if said else ():
                end = at + len(said)
                if [token.stem for token in tokens[at:end]] == said and all(end <= other.start or other.end <= at for other in known):
                    yield replace(item.named, start=at, end=end)
                    break

    def _is_prep(self, tokens: Sequence[Token], quantity: Quantity, named: Named) -> bool:
        """Returns True if a material only names a preparation, as the lime of “a lime cordial” does, so that it is no ingredient."""
        words = self._words.words
        one = quantity.kind == "count" and quantity.end == quantity.start + 1 and tokens[quantity.start].plain in words["one"]
        return one and named.end < len(tokens) and tokens[named.end].plain in words["preps"]

    def is_share(self, tokens: Sequence[Token], quantity: Quantity) -> bool:
        """Returns True if a quantity is a share of an ingredient, not a count of pieces: the “half” of “half the cherries”."""
        share = self._words.at("shares", tokens, quantity.start) if quantity.kind == "count" else None
        end = quantity.start + share[0] if share else len(tokens)
        return end < len(tokens) and (tokens[end].plain in self._words.words["definite"] or self._words.at("of", tokens, end) is not None)

    def _part(self, tokens: Sequence[Token], quantity: Quantity, named: Named) -> Named:
        """The part of a fruit that stands before its amount: “the zest of 3 limes”."""
        for at in range(max(0, quantity.start - 4), quantity.start):
            hit = self._words.at("part_words", tokens, at)
            between = tokens[at + hit[0] : quantity.start] if hit else ()
            # “For super juice I peel a dozen limes”
            if hit and hit[1] in ("zest", "peel", "juice") and not any(token.plain in self._words.words["persons"] for token in between):
                return self._reading.part_of(named, str(hit[1])) or named
        return named

    def _with_part(self, tokens: Sequence[Token], named: Named) -> Named:
        """A mention with the part that stands before it: “la piel de limón”."""
        for at in range(named.start - 1, max(-1, named.start - 4), -1):
            hit = self._words.at("part_words", tokens, at)
            if hit and at < named.start - 1:
                part = self._reading.part_of(named, str(hit[1])) if hit[1] in ("zest", "peel", "juice") else None
                return replace(part, start=at) if part is not None else named
            if tokens[at].plain not in self._words.words["of"] and tokens[at].plain not in self._words.words["describes"]:
                break
        return named

    def _follows(self, tokens: Sequence[Token], before: tuple[Quantity, Named], quantity: Quantity) -> bool:
        """Returns True if an amount stands right behind another thing's, whose part it shares."""
        between = tokens[max(before[0].end, before[1].end) : quantity.start]
        joints = self._words.words["and"]
        return bool(before[1].part) and all(token.plain in joints or token.plain in (",", "+", "&") for token in between)

    def near(self, tokens: Sequence[Token], start: int, end: int) -> bool:
        """Returns True if only joining and describing words stand between an amount and a name."""
        words = self._words.words
        heat = next((q for q in self._reading.quantities.all(tokens[start:end]) if q.kind in ("celsius", "degrees")), None)
        if heat is not None:
            # “1 l of 95 °C water”
            return self.near(tokens, start, start + heat.start) and self.near(tokens, start + heat.end, end)
        return all(
            token.plain in words["describes"]
            or token.stem in words["describes"]
            or token.plain in words["of"]
            or token.plain in words["brewed_words"]
            # “40 g de fleurs d'hibiscus”
            or token.plain in words["pieces"]
            or token.plain in ("(", ")", "x", ",", ":", "-", "–")
            for token in tokens[start:end]
        )

    def the_one(self, named: Named, quantity: Quantity | None = None) -> Ingredient | None:
        """Returns the listed ingredient of the named material, or of the same fruit's part by another name; None if there is none. Of several, the one with that
        quantity is preferred."""
        same = [item for item in self.listed if item.key == named.key]
        if same:
            return next((item for item in same if quantity is not None and self.equal(quantity, item)), same[0])
        return next(
            (
                item
                for item in self.listed
                if named.said
                and named.said.lower().split()[-1].rstrip("s") in item.called
                and item.named.part == named.part
                and (
                    named.key is None
                    or item.own is not None
                    or self._reading.material(named.key).kind == self._reading.material(item.key).kind
                )
            ),
            None,
        )

    def equal(self, quantity: Quantity, item: Ingredient) -> bool:
        one, other = self.amount_g(quantity, item), self._reading.grams(item)
        if item.amount.kind == quantity.kind and item.amount.amount.value > 0:
            one, other = quantity.amount.value, item.amount.amount.value
        return one is not None and other is not None and abs(one - other) <= SAME * max(one, other)

    def amount_g(self, quantity: Quantity, item: Ingredient) -> float | None:
        if quantity.unit == "oz" and self._reading.material(item.key).pours:
            quantity = replace(quantity, kind="volume", amount=quantity.amount.times(29.5735 / 28.3495))
        return self._reading.grams_of(quantity, item.key)

    def _others(self, spoken: Sequence[Token], item: Ingredient) -> set[int]:
        """Returns the places of words that name another thing than this one: “lactic acid” does not speak of malic acid."""
        if not spoken:
            return set()
        place = (spoken[0].start, spoken[-1].end)
        if place not in self._mentions:
            self._mentions[place] = [self._with_part(spoken, named) for named in self._reading.names.mentions(spoken)]
        found: set[int] = set()
        for named in self._mentions[place]:
            words = spoken[named.start : named.end]
            if named.key != item.key and self._are_several(words, named, item):
                continue
            if named.key != item.key and any(named.key == other.key for other in self.listed):
                # “The water” is the water of the list, not its rose water.
                found.update(token.start for token in words)
                continue
            if named.key == item.key or len(words) < 2 or fruit_of(named.key or "", self._reading.names.known) == item.key:
                continue
            if not all(token.stem in item.called or token.plain in item.called for token in words):
                found.update(token.start for token in words)
        return found

    def _are_several(self, words: Sequence[Token], named: Named, item: Ingredient) -> bool:
        """Returns True if one plural word names the kind of an ingredient: “vinegars” refers to white wine vinegar and to balsamic vinegar."""
        if len(words) != 1 or named.key is None or words[0].plain == words[0].stem or words[0].stem not in item.called:
            return False
        return self._reading.material(named.key).kind == self._reading.material(item.key).kind

    def speaks(self, spoken: Sequence[Token], item: Ingredient) -> bool:
        """Returns True if tokens refer to an ingredient by one of its words, and that word is not part of the name of another material."""
        if item.key == "water":
            spoken = self._but_iced(spoken, item)
        if _call(spoken, item):
            others = self._others(spoken, item)
            if not others or _call([token for token in spoken if token.start not in others], item):
                return True
        # A compound is called by its first or its last part: Zimt for Zimtstangen, Blüten for Holunderblüten.
        return "compounds" in self._words.data and any(
            len(token.plain) >= _PART_LETTERS
            and token.text[:1].isupper()
            and not any(token.stem in other.called or token.plain in other.called for other in self.listed if other is not item)
            and any(word.startswith(token.plain) or word.endswith(token.plain) for word in item.called)
            for token in spoken
        )

    def _but_iced(self, spoken: Sequence[Token], water: Ingredient) -> Sequence[Token]:
        """Returns tokens without those beside “ice”, unless the listed water is iced itself: in “shock in ice water” nothing goes in."""
        ice = self._words.words["ice_words"]
        cold = [at for at, token in enumerate(spoken) if token.plain in ice]
        if not cold or not ice.isdisjoint(water.called):
            return spoken
        return [token for at, token in enumerate(spoken) if all(abs(at - other) > _BESIDE for other in cold)]


def _parted(tokens: Sequence[Token]) -> bool:
    return any(token.plain == "," for token in tokens)


def _call(spoken: Sequence[Token], item: Ingredient) -> bool:
    """Returns True if at least one token, or its singular, is in `item.called`: the words by which the method may refer to the ingredient."""
    called = item.called
    for token in spoken:  # noqa: SIM110 - a loop: this is asked of every word for every ingredient
        if token.stem in called or token.plain in called:
            return True
    return False
