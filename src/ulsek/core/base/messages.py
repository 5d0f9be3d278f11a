"""Messages: sentences of the core as an English template that stands where it is said, with its values kept apart.

A message is rendered last, in the language of its reader, and stored as template and values. Templates are extracted from the calls of `message`, `template`,
`counted` and `in_context` into the catalogues (`ulsek.translations`); a template is therefore always a literal, and a whole sentence or phrase. A part that
depends on a condition is another template.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, fields
from datetime import date, datetime
from functools import cache
from typing import Any, ClassVar, Literal

from . import number_format
from .catalogue import SOURCE_LANGUAGE, catalogue, decimal_mark
from .vocabulary import Kind, doing, listed_word

Joining = Literal["and", "or", "comma", "space", "dot", "semicolon"]


class _Rendered:
    """Base of what has a text in every language. Its `str` is the text in the source language."""

    __slots__ = ()

    def text(self, language: str = SOURCE_LANGUAGE) -> str:
        """Returns the text in a language. Raises LookupError for a language without a catalogue."""
        raise NotImplementedError

    def __str__(self) -> str:
        return self.text()


def _marked(printed: str, language: str) -> str:
    """Returns a printed number with the decimal mark of a language."""
    return printed if language == SOURCE_LANGUAGE else printed.replace(".", decimal_mark(language))


@dataclass(frozen=True, slots=True)
class Computed(_Rendered):
    """A computed number and its unit, printed with `decimals`, or by its size if that is None. See `number_format.amount`."""

    kind: ClassVar[str] = "computed"
    value: float
    unit: str = ""
    decimals: int | None = None

    def text(self, language: str = SOURCE_LANGUAGE) -> str:
        if self.unit and self.decimals is None and 0.0 < self.value < number_format.LEAST_PRINTED:
            least = Computed(2.0 * number_format.LEAST_PRINTED, self.unit, 2)
            return message("under {least}", least=least).text(language).replace(" ", number_format.GAP)
        printed = _marked(number_format.figure(self.value, self.decimals), language)
        return f"{printed} {self.unit}".replace(" ", number_format.GAP) if self.unit else printed


@dataclass(frozen=True, slots=True)
class Given(_Rendered):
    """An input or a bound and its unit, printed as it was given, to `digits` significant digits. See `number_format.given`."""

    kind: ClassVar[str] = "given"
    value: float
    unit: str = ""
    digits: int = 6

    def text(self, language: str = SOURCE_LANGUAGE) -> str:
        printed = _marked(number_format.given(self.value, self.digits), language)
        return f"{printed} {self.unit}" if self.unit else printed


@dataclass(frozen=True, slots=True)
class Day(_Rendered):
    """A day of the calendar: "28 Nov"."""

    kind: ClassVar[str] = "day"
    iso: str

    def text(self, language: str = SOURCE_LANGUAGE) -> str:
        day = date.fromisoformat(self.iso)
        return f"{day.day:02d} {_MONTHS[day.month - 1].text(language)}"


@dataclass(frozen=True, slots=True)
class Moment(_Rendered):
    """A moment of the days around, by the clock of its house: "Friday 18:00". `iso` is the local date and time without an offset."""

    kind: ClassVar[str] = "moment"
    iso: str

    def text(self, language: str = SOURCE_LANGUAGE) -> str:
        at = datetime.fromisoformat(self.iso)
        return f"{WEEKDAYS[at.weekday()].text(language)} {at:%H:%M}"


@dataclass(frozen=True, slots=True)
class Word(_Rendered):
    """A word of the vocabulary. `own` is what the house calls it: it stands in the source language, and where a language has no word for the key.

    `form` is "word" as it is listed, "inside" as inside a sentence ("malic acid" of "Malic acid, dry"), or "doing" for what goes on while a verb waits
    ("steeping").
    """

    kind: ClassVar[str] = "word"
    list: Kind
    key: str
    own: str = ""
    form: Literal["word", "inside", "doing"] = "word"

    def text(self, language: str = SOURCE_LANGUAGE) -> str:
        if self.form == "doing":
            return doing(self.key, language)
        listed = listed_word(self.list, self.key, language) if language != SOURCE_LANGUAGE or not self.own else None
        name = listed or self.own or self.key.replace("_", " ")
        return short_name(name) if self.form == "inside" else name


def short_name(name: str) -> str:
    """Returns a material's name as it stands inside a sentence: without its form, in small letters. "Malic acid, dry" is "malic acid"."""
    return name.split(",", maxsplit=1)[0].lower()


@dataclass(frozen=True, slots=True)
class Items(_Rendered):
    """Several values in a row: "a, b and c", "a, b or c", "a, b", "a b", "a · b", "a; b"."""

    kind: ClassVar[str] = "items"
    items: tuple[Value, ...]
    joining: Joining = "and"

    def text(self, language: str = SOURCE_LANGUAGE) -> str:
        *head, last = [printed(item, language) for item in self.items] or [""]
        if not head:
            return last
        first = ", ".join(head)
        if self.joining == "and":
            return message("{first} and {last}", first=first, last=last).text(language)
        if self.joining == "or":
            return message("{first} or {last}", first=first, last=last).text(language)
        return _BETWEEN[self.joining].join((*head, last))


_BETWEEN: Mapping[str, str] = {"comma": ", ", "space": " ", "dot": " · ", "semicolon": "; "}


@dataclass(frozen=True, slots=True)
class Message(_Rendered):
    """A template in the source language and its values by name. `plural` is the template for counts other than one, chosen by the value "n".

    `context` tells equal templates of different meaning apart. An empty template has an empty text, and is false.
    """

    kind: ClassVar[str] = "message"
    template: str
    values: tuple[tuple[str, Value], ...] = ()
    plural: str = ""
    context: str = ""

    def __bool__(self) -> bool:
        return bool(self.template)

    def text(self, language: str = SOURCE_LANGUAGE) -> str:
        """Returns the message in a language; in the source language if the catalogue does not hold its template. Raises LookupError for an unknown language."""
        if not self.template:
            return ""
        pattern = self._pattern(language)
        if not self.values:
            return pattern
        filled: Mapping[str, str] = {name: printed(value, language) for name, value in self.values}
        if _CAPITAL in pattern:
            filled = {name: _Filled(text) for name, text in filled.items()}
        return pattern.format_map(filled)

    def _pattern(self, language: str) -> str:
        if language == SOURCE_LANGUAGE and not self.plural:
            return self.template
        found = catalogue(language)
        if self.plural:
            n = next(value for name, value in self.values if name == "n")
            number = n if isinstance(n, int) else n.value if isinstance(n, (Computed, Given)) else 2
            # gettext counts in whole numbers; 1.5 has the plural form.
            whole = int(number) if float(number).is_integer() else 2
            return found.ngettext(self.template, self.plural, whole)
        return found.pgettext(self.context, self.template) if self.context else found.gettext(self.template)

    def with_values(self, **values: Value) -> Message:
        """Returns the message with these values added."""
        return Message(self.template, (*self.values, *values.items()), self.plural, self.context)


Value = str | int | Computed | Given | Day | Moment | Word | Items | Message
"""What may stand in a message. A text stands as it is: a name, a key, what somebody wrote."""
NOTHING = Message("")


class _Filled(str):
    """A value as it stands in a template. `{name:capital}` begins with a capital letter, as at the start of a sentence."""

    __slots__ = ()

    def __format__(self, form: str) -> str:
        return capital(self) if form == "capital" else str(self)


_CAPITAL = ":capital}"


def capital(text: str) -> str:
    """Returns the text with a capital at its start."""
    return text[:1].upper() + text[1:]


def printed(value: Value, language: str = SOURCE_LANGUAGE) -> str:
    """Returns a value of a message as text in a language. A value of any other type, such as refused JSON, is written by `str`."""
    return value.text(language) if isinstance(value, _Rendered) else str(value)


def message(template: str, /, **values: Value) -> Message:
    """Returns a message of a template, such as "{mass} to go", and its values. The template is a literal; every value has its place in it."""
    return Message(template, tuple(values.items())) if values else _without_values(template)


_without_values = cache(Message)
"""Messages without values, each made once: the properties of a liquid name what they check at every call."""


def template(pattern: str, /) -> Message:
    """Returns a message whose values are not known yet: `with_values` adds them. The pattern is a literal."""
    return Message(pattern)


def counted(one: str, many: str, n: int | Computed | Given, /, **values: Value) -> Message:
    """Returns a message about a count `n`, by the template for one or for many: ``counted("{n} day", "{n} days", 3)``."""
    return Message(one, (("n", n), *values.items()), many)


def in_context(context: str, template: str, /, **values: Value) -> Message:
    """Returns a message of a template that has another meaning in another `context`."""
    return Message(template, tuple(values.items()), context=context)


def term(text: str) -> Message:
    """Returns a set phrase that stands in a registry: a tool, an allergen, a check, the name of a figure. `ulsek.translations` lists the registries."""
    return Message(text)


def verbatim(value: Value) -> Message:
    """Returns a value as a message of its own: a name, a text that somebody wrote, or a stored text. An empty text gives an empty message."""
    return Message("{value}", (("value", value),)) if value != "" else NOTHING


def grams(value: float, decimals: int | None = None) -> Computed:
    """Returns a mass [g] as a value of a message."""
    return Computed(value, "g", decimals)


def percent(fraction: float, decimals: int | None = 0) -> Computed:
    """Returns a fraction (0 to 1) as a percentage: 0.125 is "13 %"."""
    return Computed(100.0 * fraction, "%", decimals)


def listed(items: Iterable[Value], joining: Joining = "and") -> Items:
    """Returns several values in a row as one value."""
    return Items(tuple(items), joining)


def sentences(*said: Message) -> Message:
    """Returns whole sentences, one after the other, as one message. Empty ones are omitted."""
    told = tuple(item for item in said if item)
    return message("{sentences}", sentences=Items(told, "space")) if len(told) > 1 else told[0] if told else NOTHING


def span(low: float, high: float, unit: str = "") -> Message:
    """Returns bounds as a phrase: "from 0.5 to 85 °Bx"."""
    if not unit:
        return message("from {low} to {high}", low=Given(low), high=Given(high))
    return message("from {low} to {high} {unit}", low=Given(low), high=Given(high), unit=unit)


_DAY_MIN = 1440
"""Minutes of a day. One day is still told in hours."""


def minutes(value: float) -> Message:
    """Returns a span [min], rounded to whole minutes: "20 min", "3 h", "1 h 30 min", "2 days"."""
    whole = round(value)
    if whole >= 2 * _DAY_MIN and whole % _DAY_MIN == 0:
        return days(whole // _DAY_MIN)
    hours, rest = divmod(whole, 60)
    if not hours:
        return message("{time}", time=Computed(rest, "min", 0))
    if not rest:
        return message("{time}", time=Computed(hours, "h", 0))
    return message("{hours} {minutes}", hours=Computed(hours, "h", 0), minutes=Computed(rest, "min", 0))


def days(n: int) -> Message:
    """Returns a span in whole days: "1 day", "3 days"."""
    return counted("{n} day", "{n} days", n)


def stored(said: Value) -> Any:
    """Returns the JSON under which a message or a value of it is stored. A number that is none is stored as it is printed."""
    if not isinstance(said, _Rendered):
        return said if isinstance(said, (str, int)) else str(said)
    if isinstance(said, Message):
        parts: dict[str, Any] = {"template": said.template, "values": {name: stored(value) for name, value in said.values}}
        return parts | {name: getattr(said, name) for name in ("plural", "context") if getattr(said, name)}
    if isinstance(said, Items):
        return {"kind": said.kind, "items": [stored(item) for item in said.items], "joining": said.joining}
    if isinstance(said, (Computed, Given)) and not math.isfinite(said.value):
        return said.text()
    return {"kind": said.kind} | {item.name: getattr(said, item.name) for item in fields(said)}


_KINDS: Mapping[str, type[Computed | Given | Day | Moment | Word]] = {kind.kind: kind for kind in (Computed, Given, Day, Moment, Word)}


def read_stored(data: Any) -> Message:
    """Returns the message of its stored JSON. A plain text, stored before messages were, is returned as it is."""
    return verbatim(data) if isinstance(data, str) else _message(data)


def _message(data: Mapping[str, Any]) -> Message:
    values = tuple((name, _value(value)) for name, value in data["values"].items())
    return Message(data["template"], values, data.get("plural", ""), data.get("context", ""))


def _value(data: Any) -> Value:
    if isinstance(data, (str, int)):
        return data
    if "template" in data:
        return _message(data)
    if data["kind"] == Items.kind:
        return Items(tuple(_value(item) for item in data["items"]), data["joining"])
    return _KINDS[data["kind"]](**{name: value for name, value in data.items() if name != "kind"})


_MONTHS = (
    in_context("month", "Jan"),
    in_context("month", "Feb"),
    in_context("month", "Mar"),
    in_context("month", "Apr"),
    in_context("month", "May"),
    in_context("month", "Jun"),
    in_context("month", "Jul"),
    in_context("month", "Aug"),
    in_context("month", "Sep"),
    in_context("month", "Oct"),
    in_context("month", "Nov"),
    in_context("month", "Dec"),
)
WEEKDAYS = (
    in_context("weekday", "Monday"),
    in_context("weekday", "Tuesday"),
    in_context("weekday", "Wednesday"),
    in_context("weekday", "Thursday"),
    in_context("weekday", "Friday"),
    in_context("weekday", "Saturday"),
    in_context("weekday", "Sunday"),
)
"""The days of a week, Monday first, as `date.weekday` counts them."""
