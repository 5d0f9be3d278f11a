"""Parse: a recipe pasted in plain English becomes a draft spec, each doubtful reading marked, the original text kept.

Nothing is guessed in silence: what can be read two ways is read the likelier way and said, what cannot be read stays open and blocks publishing.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from ..base.answer import OpenForm
from ..base.messages import listed, message
from ..base.refusals import Refusal
from ..base.units import LOCALES, Locale
from ..base.vocabulary import materials_named, plain
from ..materials.reference_materials import typical_materials
from ..safety.shipped_rules import kitchen_words
from ..spec.json_form import MOST_NOTE
from ..spec.object_reader import MOST_TEXT
from .amounts import Words, Written, read_written, sized
from .doubts import TO_TASTE, Doubt, Doubter
from .draft import Ingredient, draft_of, names_of
from .steps import TEMPERATURE, material_key, sentences, verb_of

MOST_LINES, MOST_LETTERS, MOST_IN_LINE = 400, MOST_NOTE, 2000
"""Lines of a text, letters in all, letters in one line [count]: within a line the reading is not linear, so its length is bounded."""
LONGEST_INGREDIENT = 300
"""Longest line that is read as an ingredient [letters]; a longer one is read as a sentence of the method."""
_BRACKETED = re.compile(r"^(?P<first>[^()]+?)\s*\((?P<second>[^()]*\d[^()]*)\)\s*(?P<rest>.*)$")
_SLASHED = re.compile(r"^(?P<first>[^()/]*[a-zA-Z][^()/]*?)\s*/\s*(?P<second>\d[^,]*?)(?=\s+[a-zA-Z]{3,}|$)\s*(?P<rest>.*)$")
_HEADING = re.compile(
    r"^(?:ingredients|method|directions|preparation|steps|[^\d]{0,40}:|(?:yields?|makes|serves|keeps)\b.*)$", re.IGNORECASE
)
_TWO_AT_ONCE = re.compile(r"^(?P<one>.*[a-z]{3}.*?)\s+(?:to|and|plus|:)\s+(?P<two>(?:[\d½¼¾⅓⅔]|an? ).*)$", re.IGNORECASE)
_PER_WEIGHT = re.compile(
    r"^(?P<what>\d.*?)\s+(?:per|to the|for each|for every)\s+(?P<unit>kg|kilo(?:gram)?|100 g|g)(?:\s+of)?\s+(?P<of>[a-z].*)$", re.IGNORECASE
)
_PER_G = {"k": 1000.0, "1": 100.0, "g": 1.0}
_TIMES = re.compile(
    r"\b(?:double|triple|half|quadruple) (?:the )?(?:batch|recipe|quantit)|\bmakes (?:a few|some|plenty|lots)\b", re.IGNORECASE
)
_PH = re.compile(r"\bpH\s*(?:of\s*)?\d", re.IGNORECASE)
_OF_FRUIT = re.compile(
    r"^(?:the\s+)?(?P<part>juice|zest|peel)(?:\s+(?:and|&)\s+(?P<other>juice|zest|peel))?\s+of\s+(?P<fruit>.*\S)$", re.IGNORECASE
)
_BULLET = re.compile(r"^\s*(?:[-*•·–]|\d+[.)])\s+")
_STATE = re.compile(
    r"\b(?:make up to|made up to|top(?:ped)? up(?: to| with)?|enough .* to cover|to cover|fill to the line|to the line)\b", re.IGNORECASE
)
_PART_OF_IT = re.compile(
    r"\b(?P<amount>(?:(?<![\d.,])\d[\d.,]*\s*(?:g|kg|ml|cl|l|oz|cups?|%)|half|a third|a quarter))\s+of\s+(?:the|it)\b", re.IGNORECASE
)
_LOW_HEAT = re.compile(r"\b(?:low|medium|high|gentle) heat\b", re.IGNORECASE)
_END_STATE = re.compile(
    r"\b(?:until clear|until it separates|to half|by half|to a line|until thick|until golden|until soft)\b", re.IGNORECASE
)


@dataclass(frozen=True, slots=True)
class Parsed:
    """A draft spec in its open form, and every doubt about it."""

    draft: OpenForm
    doubts: tuple[Doubt, ...] = ()


class _Reader(Doubter):
    """One reading of a text."""

    def __init__(self, text: str, locale: Locale, known: Mapping[str, Any], words: Words | None) -> None:
        super().__init__(locale, known, words)
        self.text = text
        self.steps: list[tuple[int, str, str, str]] = []
        self.name = ""

    def place_of(self, doubt: Doubt) -> str:
        """The line or step of the draft that a doubt is about; the draft itself where it is about neither. Called once the lines have their ids."""
        line = next((item.id for item in self.ingredients if item.line == doubt.line and item.id), "")
        steps = [(n, text) for n, (number, _, text, _) in enumerate(self.steps, 1) if number == doubt.line]
        step = next((n for n, text in steps if text == doubt.text), steps[0][0] if steps else None)
        return line or (f"s{step}" if step else "")

    def read(self) -> None:
        for number, raw in enumerate(self.text.splitlines(), 1):
            if len(raw) > MOST_IN_LINE:
                raise Refusal(
                    message("Line {number} is too long", number=number),
                    "text",
                    message("at most {most} letters", most=MOST_IN_LINE),
                    message("Break it at its sentences"),
                    "too_long",
                )
            line = _BULLET.sub("", raw).strip()
            if _TIMES.search(line):
                self.doubt("how_many_times", number, line, "How many times the spec is that, in litres, and before or after dilution?")
                if verb_of(line) is None:
                    continue
            if not line or _HEADING.match(line):
                continue
            if _PH.search(line):
                self.doubt("ph_for_acidity", number, line, "pH is not sourness: dose by a titration. Which g per 100 mL is meant?")
            if (
                not self.name
                and not self.ingredients
                and not self.steps
                and not re.match(r"[\d½¼¾⅓⅔~]|about |an? ", line, re.IGNORECASE)
                and verb_of(line) is None
            ):
                self.name = line.strip("# ").rstrip(":")
                continue
            if len(line) > LONGEST_INGREDIENT:
                self._method(number, line)
                continue
            fruit = _OF_FRUIT.match(line)
            if fruit and not self.steps:
                for part in filter(None, (fruit["part"], fruit["other"])):
                    self._of_fruit(number, line, part.lower(), fruit["fruit"])
            elif (verb_of(line) is not None and not (_STATE.match(line) and not self.steps)) or self._is_sentence(line):
                self._method(number, line)
            else:
                for part in self._apart(line):
                    self._ingredient(number, part)
        self._method_against_list()

    def _apart(self, line: str) -> list[str]:
        """ "2 parts sugar to 1 part water" as its two ingredients; one line as it is."""
        found = _TWO_AT_ONCE.match(line)
        both = [found["one"], found["two"]] if found else []
        amounts = [self.amount(part) for part in both]
        return both if both and all(item.kind != "missing" and len(item.rest) > 2 for item in amounts) else [line]

    def _is_sentence(self, line: str) -> bool:
        """Whether a line after the ingredients is a sentence of the method, though it begins with no known verb."""
        words = len(line.split())
        return bool(self.ingredients) and words >= 4 and (line.endswith(".") or words > 8) and self.amount(line).kind == "missing"

    def _of_fruit(self, number: int, line: str, part: str, fruit: str) -> None:
        """ "Juice of 2 lemons": what it is can be told, how much it is cannot; of zest and peel it is known what one fruit gives, within a factor of two."""
        written = self.amount(fruit)
        name = f"{written.rest.rstrip('s')} {part}"
        key = material_key(name, self.known)
        counted = written.kind == "count" and key is not None and self.material(key).piece_g is not None
        item = Ingredient(number, line, name, key, replace(written, rest=name) if counted else self.amount(name))
        self.ingredients.append(item)
        if item.material is None:
            self._unknown(item)
        self.doubt("count_of_fruit", number, line, f"Fruit differs: weigh the {part} once, then write its grams.")

    def _ingredient(self, number: int, line: str) -> None:
        if _STATE.search(line):
            self._state(number, line)
            return
        per = _PER_WEIGHT.match(line)
        if per:
            self._per_weight(number, line, per)
            return
        first, second, text = self._paired(line)
        written = self.amount(text)
        beside = self.amount(second) if second else written
        written = self._by_size(written)
        name = TO_TASTE.sub("", re.sub(r"\([^)]*\)", " ", written.rest)).strip(" ,.;") or written.rest
        alternatives = re.split(r"\s+or\s+", name)
        if len(alternatives) > 1:
            self.doubt("alternatives", number, line, f"Which is it: {' or '.join(part.strip() for part in alternatives)}?")
            name = alternatives[0]
        key = material_key(name, self.known)
        # Of two amounts the weight counts.
        item = Ingredient(number, line, name.strip(), key, beside if beside.kind == "mass" and written.kind != "mass" else written)
        self.ingredients.append(item)
        self.doubts_of(item, weighed=beside.kind == "mass")
        if second:
            self._two_units(item, first, second)

    def _by_size(self, written: Written) -> Written:
        """ "2 large kumquats" in grams, where it is known what a kumquat weighs."""
        key = material_key(written.rest, self.known) if written.kind == "count" else None
        piece = self.material(key).piece_g if key is not None else None
        return (sized(written, piece) if piece is not None else None) or written

    def _per_weight(self, number: int, line: str, found: re.Match[str]) -> None:
        """ "600 g sugar per kg of quince": so much of one line for each weight of another."""
        amount = self.amount(found["what"])
        key = material_key(amount.rest, self.known)
        grams = self._grams(amount, key)
        basis = next((item for item in self.ingredients if item.material == material_key(found["of"], self.known)), None)
        item = Ingredient(number, line, amount.rest, key, amount)
        self.ingredients.append(item)
        if key is None:
            self._unknown(item)
        if grams is None or basis is None:
            self.doubt("ratio_to_what", number, line, f"Per {found['unit']} of what? “{found['of']}” is not in the list above.")
            return
        item.per = (basis, grams / _PER_G[found["unit"][0].lower()])

    def _paired(self, line: str) -> tuple[str, str, str]:
        """(first amount, second amount, line without the second) where a line gives two units for one amount."""
        for pattern in (_BRACKETED, _SLASHED):
            found = pattern.match(line)
            if found and self.amount(found["second"].strip()).kind in ("mass", "volume", "percent", "count"):
                return found["first"].strip(), found["second"].strip(), f"{found['first'].strip()} {found['rest'].strip()}"
        return "", "", line

    def _state(self, number: int, line: str) -> None:
        volume = re.search(r"((?<![\d.,])\d[\d.,\s]*(?:ml|l|litres?|liters?|cl))\b", line, re.IGNORECASE)
        name = re.sub(_STATE, " ", line)
        name = re.sub(r"\b(?:with|to|up|enough|the|line)\b|(?<![\d.,])\d[\d.,]*\s*(?:ml|l|litres?|cl)\b", " ", name, flags=re.IGNORECASE)
        key = material_key(name, self.known) or ("water" if "water" in plain(line) or volume else None)
        written = Written(
            "state",
            self.amount(volume[1]).amount if volume else read_written("0 g").amount,
            "line" if volume else "cover",
            line,
            name,
        )
        item = Ingredient(number, line, name.strip() or "water", key, written)
        self.ingredients.append(item)
        self.doubt("state_not_amount", number, line, "A state to reach, not an amount to add: is that what is meant?")
        if key is None:
            self._unknown(item)

    def _method(self, number: int, line: str) -> None:
        for position, sentence in enumerate(sentences(line)):
            verb = verb_of(sentence)
            if verb is None:
                if position == 0:
                    self.steps.append((number, "combine", sentence.strip(" ."), ""))
                    self.doubt("which_step", number, sentence, "Which step is this? It is read as stirring in.")
                    self._method_doubts(number, sentence)
                elif self.steps and sentence.strip():
                    at, name, text, rest = self.steps[-1]
                    self.steps[-1] = (at, name, f"{text} {sentence}".strip(), rest)
                    self._method_doubts(number, sentence)
                continue
            self.steps.append((number, verb[0], sentence.strip(" ."), verb[1]))
            self._method_doubts(number, sentence)
            if verb[0] == "reduce" and not re.search(r"\d|half|third|quarter", sentence):
                self.doubt("end_state", number, sentence, "Reduced to what? It is read as half of its weight.")

    def _method_doubts(self, number: int, sentence: str) -> None:
        for found in TEMPERATURE.finditer(sentence):
            if not found["unit"]:
                self.doubt("temperature_without_unit", number, sentence, f"{found['value']} degrees of what, and of the pan or the liquid?")
        for part in _PART_OF_IT.finditer(sentence):
            self.doubt("part_of_it", number, sentence, f"Only {part['amount']} of it goes in here: split its line, or all of it goes in.")
        if _LOW_HEAT.search(sentence):
            self.doubt("stove_level", number, sentence, "A stove's level is not a temperature: what does a probe show?")
        if _END_STATE.search(sentence):
            self.doubt(
                "end_state", number, sentence, "An end point: how long does it usually take, and by which weight or figure is it told?"
            )
        for word in kitchen_words()["waits_h"]:
            if re.search(rf"\b{word}\b", sentence, re.IGNORECASE):
                low, high = kitchen_words()["waits_h"][word][1:]
                self.doubt("wait_word", number, sentence, f"“{word}” is taken as {low} to {high} hours: set the least and the most.")

    def _method_against_list(self) -> None:
        """What the list holds and the method never uses, what the method names and the list doesn't hold, what stands twice."""
        for item in self.ingredients:
            item.called = self._own_names(item)
        seen: dict[str, Ingredient] = {}
        for item in self.ingredients:
            if item.material is not None and item.material in seen and item.written.kind != "state":
                self.doubt("stands_twice", item.line, item.text, f"{item.name} stands twice: join the lines, or say where each goes.")
            if item.material is not None:
                seen.setdefault(item.material, item)
        if not self.steps:
            return
        told = plain(" ".join(text for _, _, text, _ in self.steps))
        # “Blend until dissolved”: a method that names nothing means all of it.
        silent = not any(word in told for item in self.ingredients for word in item.called or names_of(item))
        everything = silent or re.search(r"\b(?:all|everything|the rest|ingredients)\b", told) is not None
        for item in self.ingredients:
            if not everything and not any(word in told for word in item.called or names_of(item)):
                self.doubt("never_used", item.line, item.text, f"The method never uses {item.name}: where does it go?")
        listed = {item.material for item in self.ingredients}
        called = " ".join(plain(item.name) for item in self.ingredients)
        for number, _, text, _ in self.steps:
            for word, key in materials_named(text):
                if key in self.known and key not in listed and word not in called:
                    self.doubt("not_in_list", number, text, f"The method names {word}, which is not in the list.")
                    break

    def _own_names(self, item: Ingredient) -> tuple[str, ...]:
        """The words that mean this ingredient and no other of the list; all its words when it shares every one. “The juice” is it where there is one."""
        names = names_of(item)
        shared = {word for other in self.ingredients if other is not item for word in plain(other.name).split()}
        kind = plain(item.name).split()[-1:] if len(item.name.split()) > 1 else []
        own = [word for word in [*names, *kind] if word not in shared]
        if item.material is not None and self.material(item.material).kind == "acid":
            own.append("acids")
        return tuple(dict.fromkeys(own or names))


def parse_recipe(text: str, locale: str = "metric", known: Mapping[str, Any] | None = None, words: Words | None = None) -> Parsed:
    """Returns a draft spec of a pasted recipe, with every doubtful reading in it; `words` are the house's own handful and splash. Raises Refusal for a text
    that is empty, too long, or holds nothing to read.
    """
    if locale not in LOCALES:
        raise Refusal(
            message("“{locale}” is no locale", locale=locale),
            "locale",
            message("choose one of {locales}", locales=listed(LOCALES, "comma")),
        )
    if not text.strip():
        raise Refusal(message("There is nothing to read"), "text", remedy=message("Paste the recipe, one ingredient a line"), code="empty")
    if len(text) > MOST_LETTERS or text.count("\n") > MOST_LINES:
        raise Refusal(
            message("The text is too long for one recipe"),
            "text",
            message("at most {most_letters} letters in {most_lines} lines", most_letters=MOST_LETTERS, most_lines=MOST_LINES),
            message("Paste one recipe at a time"),
            "too_long",
        )
    reader = _Reader(text, locale, known or typical_materials(), words)
    reader.read()
    if not any(item.written.kind != "missing" or item.material for item in reader.ingredients) and not reader.steps:
        raise Refusal(
            message("No ingredient and no step can be read in this"),
            "text",
            remedy=message("Write one ingredient a line, the amount first"),
            code="unreadable",
        )
    steps = [(verb, sentence, rest) for _, verb, sentence, rest in reader.steps]
    draft = draft_of(reader.name, text, reader.locale, reader.ingredients, steps)
    if reader.doubts:
        draft["doubts"] = [
            {"at": reader.place_of(doubt), "code": doubt.code, "text": doubt.text[:MOST_TEXT], "question": doubt.question}
            for doubt in reader.doubts
        ]
    return Parsed(draft, tuple(reader.doubts))
