"""Parse: a recipe as people write or say it becomes a draft spec that computes at once, each doubtful reading marked, the text kept.

Nothing is guessed in silence: what can be read two ways is read the likelier way and asked about; what nobody wrote is assumed where it cannot hurt, marked so.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from ..base.answer import OpenForm, encode
from ..base.messages import listed, message
from ..base.refusals import Refusal
from ..base.units import LOCALES, Locale
from ..materials.reference_materials import typical_materials
from ..safety.shipped_rules import kitchen_words
from ..spec.json_form import MOST_NOTE
from ..spec.object_reader import MOST_TEXT
from ..written.lexicon import lexicon
from ..written.tokens import Token, tokens_of
from .action import Action
from .alternatives import put_in
from .assembly import Assembly
from .claims import Claim, claim_in
from .doubts import Doubt, Form
from .draft import draft_of
from .family import family_of, name_for
from .ingredient import Ingredient
from .languages import language_of
from .layout import Block, Layout
from .line_ratios import without_circles
from .lines import LineReader
from .material_names import material_names
from .method import MethodReader
from .method_questions import of_the_list, of_the_method
from .not_taken import not_taken
from .phrases import PhraseKind, TextPhrase
from .repairs import with_repairs
from .sub_recipes import Parts, parts_of, poured
from .text_reading import Shelf, TextReading, Words
from .verbs import VerbFinder
from .workable import made_workable

MOST_LINES, MOST_LETTERS = 400, MOST_NOTE
"""Lines of a text and letters in all [count]."""
_MOST_DOUBTS = 60
"""Doubts that are kept of one text [count]; a text with more is no recipe."""
_TAG = re.compile(r"</?[a-zA-Z][^<>\n]{0,200}>")
"""Markup within a text: its words are read, its tags are not."""


@dataclass(frozen=True, slots=True)
class AskedDoubt:
    """A doubt as it is asked: what, about which line or step of the draft (`at`), in which line of the text (from 1), and the words of its answers.

    `start` and `end` are the place of its words in the text [letters].
    """

    code: str
    at: str
    line: int
    text: str
    question: str
    answers: tuple[str, ...]
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Parsed:
    """A draft spec in its open form, every doubt about it, the claims of the text and its phrases; `language` is the one in which it was read."""

    draft: OpenForm
    doubts: tuple[AskedDoubt, ...] = ()
    claims: tuple[Claim, ...] = ()
    phrases: tuple[TextPhrase, ...] = ()
    language: str = "en"


class _Text:
    """One reading of a whole text."""

    def __init__(self, text: str, locale: Locale, known: Mapping[str, Any], words: Words, shelf: Shelf) -> None:
        tokens = tokens_of(text)
        self.language = language_of(text, tokens)
        lexical = lexicon(self.language)
        self.reading = TextReading(text, lexical, locale, material_names(self.language, known), words, shelf)
        self._verbs = VerbFinder(lexical, self.reading.quantities)
        self._layout = Layout(self.reading, self._verbs)
        self._lines, self._method = LineReader(self.reading), MethodReader(self.reading, self._verbs)
        self.name, self.claims, self.phrases = "", list[Claim](), list[TextPhrase]()

    def read(self) -> list[Action]:
        """Reads all blocks; returns the actions with their lines."""
        blocks = list(self._layout.blocks(_TAG.sub(lambda tag: " " * len(tag[0]), self.reading.text)))
        parts = parts_of(blocks, self.reading)
        actions = self._in_parts(parts) if parts else self._actions(blocks)
        put_in(self.reading, actions)
        missing = list(not_taken(blocks, self.reading))
        self.reading.doubts.extend(missing)
        # A row from which nothing was taken is no note that was kept: it is marked as not taken.
        self.phrases = [phrase for phrase in self.phrases if phrase.kind != "note" or all(phrase.start != doubt.start for doubt in missing)]
        if not self.name:
            self.name = self._name_within()
        return actions

    def _in_parts(self, parts: Parts) -> list[Action]:
        """Reads the preps of a text, each in its own vessel, then what is made of them; a line that takes one becomes a step that pours."""
        reading, made, held = self.reading, list[Action](), dict[str, list[Ingredient]]()
        for prep in parts.preps:
            actions = self._actions(prep.blocks)
            for action in actions:
                action.vessel = prep.vessel
            made += actions
            held[prep.vessel], reading.listed = reading.listed, []
        rest = self._actions(parts.blocks)
        for item in list(reading.listed):
            taken = next((prep for start, prep in parts.taken.items() if item.start <= start < item.end), None)
            if taken is not None:
                poured(rest, reading, item, taken, held[taken.vessel])
        reading.listed = [*(item for lines in held.values() for item in lines), *reading.listed]
        return [*made, *rest]

    def _actions(self, blocks: Sequence[Block]) -> list[Action]:
        """Reads blocks that are made in one vessel; their ingredients are the list of the reading then."""
        self._method = MethodReader(self.reading, self._verbs)
        for block in blocks:
            if block.kind == "list":
                list(self._lines.ingredients(block.line, block.tokens))
        for settle in self.reading.waiting:
            settle()
        self.reading.waiting.clear()
        without_circles(self.reading)
        self._once_said()
        last = max((at for at, block in enumerate(blocks) if block.kind == "method"), default=-1)
        for at, block in enumerate(blocks):
            # “Keep in a dark cupboard for 3 months. Strain.” is a wait.
            kept = block.kind == "claim" and at < last and (self._tells_to_keep(block) or self._waits_first(block, blocks[at + 1]))
            self._block(replace(block, kind="method") if kept else block)
        return Assembly(self.reading, self._method.actions).run()

    def _once_said(self) -> None:
        """Drops an ingredient without an amount if the same material is listed with one: “three to one with water, 900 g honey to 300 g water”."""
        reading = self.reading
        written = {item.key for item in reading.listed if item.amount.kind != "open" and not item.amount.assumed}
        for item in [item for item in reading.listed if item.amount.assumed and item.amount.kind == "mass" and item.key in written]:
            if reading.material(item.key).kind in ("water", "sweetener") and item.amount.unit in ("", "one"):
                reading.listed.remove(item)
                reading.settle(item.start, item.end)

    def _tells_to_keep(self, block: Block) -> bool:
        words = self.reading.words
        verb = words.at("verbs", block.tokens, 0)
        first = block.tokens[0]
        # “Keeps 3 weeks” tells nothing to do.
        return verb is not None and verb[1] == "store" and first.plain in words.words["verbs"] and first.plain == first.stem

    def _waits_first(self, block: Block, behind: Block) -> bool:
        """Returns True for a time before the first step, which strains: “24 hours max. Strain.” is a wait."""
        words = self.reading.words
        timed = words.says("max_words", block.tokens) and not words.at("claims", block.tokens, 0)
        verb = words.at("verbs", behind.tokens, 0) if behind.kind == "method" else None
        return timed and not self._method.actions and verb is not None and verb[1] in ("strain", "filter", "press")

    def _block(self, block: Block) -> None:
        text = self.reading.text[block.tokens[0].start : block.tokens[-1].end]
        if block.kind == "title":
            fillers = self.reading.words.words["fillers"]
            first = next((token for token in block.tokens if token.plain not in fillers and token.plain != ","), block.tokens[0])
            behind = [token for token in block.tokens if token.start > first.start]
            if first is not block.tokens[0] and first.plain in self.reading.words.words["made_for"] and behind:
                # “Right, vanilla syrup”, “so for house lime cordial”
                first = behind[0]
            told = any(token.plain in self.reading.words.words[section] for token in block.tokens for section in ("persons", "is_words"))
            # “Here's how we do the lime cordial” has a name in it.
            within = self._name_within() if told else ""
            self.name = within or self.reading.text[first.start : block.tokens[-1].end].strip(' :#*_-–—"“”([,')[:MOST_TEXT]
            self._phrase(block.tokens, "title")
        elif block.kind == "method":
            self._method.read(block.line, block.tokens)
        elif block.kind == "list" and self._method.actions:
            # “… strain. 700 g sugar, 15 g malic. Stir.”: what is listed after a step goes in after it.
            for item in self.reading.listed:
                if block.tokens[0].start <= item.start < block.tokens[-1].end:
                    item.due = len(self._method.actions)
        elif block.kind == "claim":
            self.claims.append(claim_in(block.line, block.tokens, text, self.reading))
            self._phrase(block.tokens, "claim")
        elif block.kind in ("note", "heading"):
            self._method.noted(block.tokens)
            self._phrase(block.tokens, "note")

    def _phrase(self, tokens: Sequence[Token], kind: PhraseKind, at: str = "") -> None:
        self.phrases.append(TextPhrase(tokens[0].start, tokens[-1].end, kind, at))

    def _name_within(self) -> str:
        """Returns the name that a spoken recipe says in passing: the words before “cordial”, “syrup”."""
        tokens = tokens_of(self.reading.text[:300])
        for at, token in enumerate(tokens):
            if at and token.plain in self.reading.words.words["preps"] and token.plain not in self.reading.words.words["not_preps"]:
                words: list[str] = []
                if tokens[at - 1].plain in self.reading.words.words["negation"]:
                    # “Don't squash it”
                    continue
                for place in range(at - 1, max(0, at - 4) - 1, -1):
                    before = tokens[place]
                    joins = before.plain in self.reading.words.words["and"]
                    if "\n" in self.reading.text[before.end : tokens[place + 1].start]:
                        break
                    if before.kind != "word" or (before.plain in self.reading.words.words["not_in_name"] and not joins):
                        break
                    words.insert(0, before.text)
                while words and (
                    words[0].lower() in self.reading.words.words["and"] or words[0].lower() in self.reading.words.words["fillers"]
                ):
                    del words[0]
                sections = ("forms", "strained", "verbs")
                if not words and any(self.reading.words.at(section, tokens, at) for section in sections):
                    # “That's your syrup”, “mix it” name none.
                    continue
                return " ".join([*words, token.text]).capitalize()
        return ""


def parse_recipe(
    text: str, locale: str = "metric", known: Mapping[str, Any] | None = None, words: Words | None = None, shelf: Shelf = None
) -> Parsed:
    """Returns a draft spec of a pasted recipe, with every doubtful reading in it; `words` are the house's own handful and splash, `shelf` what its shelf holds
    where a name leaves that open, None where nobody asks. Raises Refusal for a text
    that is empty, too long, in a language that is not read, or holds nothing to read.
    """
    size = _checked(text, locale)
    whole = _Text(text, size, known or _typical(), words or kitchen_words()["words"], shelf)
    actions = whole.read()
    reading = whole.reading
    if not any((item.amount.kind != "open" and not item.amount.assumed) or item.named.key for item in reading.listed) and not actions_read(
        actions
    ):
        raise Refusal(
            message("No ingredient and no step can be read in this"),
            "text",
            remedy=message("Write one ingredient a line, the amount first"),
            code="unreadable",
        )
    actions = [action for action in actions if action.verb != "nothing"]
    family = family_of(whole.name, reading, reading.listed, actions)
    draft = draft_of(whole.name or name_for(family, reading, reading.listed), family, size, reading, actions)
    places = {id(action): f"s{number}" for number, action in enumerate(actions, 1)}
    for mended in made_workable(draft, reading.names.known, reading.material):
        action = actions[mended.position]
        question = f"As it was read this step cannot be done: {mended.why} It is worked out another way: what happens here?"
        text = reading.text[action.start : action.end]
        reading.doubts.append(Doubt("cannot_be_done", action.line, text, question, (), action.start, action.end))
    doubts = _once([*reading.doubts, *of_the_method(actions, reading), *of_the_list(reading)])
    placed = (_placed(doubt, reading, actions, places) for doubt in doubts)
    settled = tuple((at, with_repairs(at, doubt, draft, reading)) for at, doubt in placed)
    if settled:
        draft["doubts"] = [doubt.form(at) for at, doubt in settled]
    if whole.claims:
        draft["claims"] = [_claim_form(claim) for claim in whole.claims]
    phrases = [
        *whole.phrases,
        *(TextPhrase(item.start, item.end, "line", item.id) for item in reading.listed),
        *(TextPhrase(action.start, action.end, "step", places[id(action)]) for action in actions if action.end),
    ]
    return Parsed(
        draft,
        tuple(_asked(at, doubt) for at, doubt in settled),
        tuple(whole.claims),
        tuple(sorted(phrases, key=lambda phrase: (phrase.start, -phrase.end))),
        whole.language,
    )


def _checked(text: str, locale: str) -> Locale:
    """Returns the locale. Raises Refusal for what is no locale, and for a text that is empty or too long."""
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
    return locale


@cache
def _typical() -> Mapping[str, Any]:
    """The materials that ship, which no reading changes."""
    return typical_materials()


def _once(doubts: Sequence[Doubt]) -> list[Doubt]:
    """Returns the doubts that are kept, each question about the same words once."""
    return list({(doubt.code, doubt.start, doubt.end, doubt.question): doubt for doubt in doubts}.values())[:_MOST_DOUBTS]


def actions_read(actions: Sequence[Action]) -> bool:
    """Returns True if any action was told by a verb of the text."""
    return any(action.word or action.minutes is not None for action in actions)


def _claim_form(claim: Claim) -> Form:
    form: Form = {"kind": claim.kind, "text": claim.text[:MOST_TEXT]}
    return form if claim.amount is None else {**form, "amount": encode(claim.amount), "unit": claim.unit}


def _asked(at: str, doubt: Doubt) -> AskedDoubt:
    answers = tuple(answer.word for answer in doubt.answers)
    return AskedDoubt(doubt.code, at, doubt.line, doubt.text, doubt.question, answers, doubt.start, doubt.end)


def _placed(doubt: Doubt, reading: TextReading, actions: Sequence[Action], places: Mapping[int, str]) -> tuple[str, Doubt]:
    """Returns (id of the line or step of the draft that a doubt is about, the doubt); the id is "" for a doubt about the draft as a whole."""
    line = next((item.id for item in reading.listed if (item.start, item.end) == (doubt.start, doubt.end)), "")
    step = next((places[id(action)] for action in actions if action.tokens and (action.start, action.end) == (doubt.start, doubt.end)), "")
    return (step or line if doubt.code == "part_of_it" else line or step), doubt
