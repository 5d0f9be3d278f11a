"""Questions about a method and about parts and percent: what it leaves open, with the answers that settle it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from ..operations.step import MOST_MINUTES
from ..written.tokens import tokens_of
from .action import Action
from .doubts import Answer, Change, Doubt, to_values
from .draft import MOST_BRIX, brix_boiled_to, out_of_bounds, verb_of
from .text_reading import TextReading


def of_the_method(actions: Sequence[Action], reading: TextReading) -> Iterator[Doubt]:
    """Yields what a method leaves open: degrees of no scale, how long, to what point, which step."""

    def about(action: Action, code: str, question: str, *answers: Answer) -> Doubt:
        return Doubt(code, action.line, reading.text[action.start : action.end], question, answers, action.start, action.end)

    for action in actions:
        if not action.tokens:
            continue
        verb = verb_of(action, reading)
        if action.degrees is not None and action.celsius is None:
            fahrenheit = round((action.degrees - 32.0) / 1.8, 1)
            key = "to_c" if verb == "cool" else "fill_c" if verb == "hot_fill" else "temperature_c"
            yield about(
                action,
                "temperature_without_unit",
                f"{action.degrees:g} degrees of what, and of the pan or the liquid?",
                to_values("°C", **{key: action.degrees}),
                to_values("°F", **{key: fahrenheit}),
            )
        yield from _out_of_range(action, verb, about)
        if action.unit_open and action.minutes is not None:
            n = action.minutes.value
            yield about(
                action,
                "time_without_unit",
                f"{n:g} of what: minutes or hours?",
                to_values("minutes", minutes=n),
                to_values("hours", minutes=60 * n),
            )
        if action.unread:
            yield about(action, "which_step", "Which step is this? It is read as stirring in.")
        if verb == "reduce" and not action.quantities and not _says_how_far(action, reading):
            yield about(action, "end_state", "Reduced to what? It is read as half of its weight.", *_shares())
        if verb == "simmer" and action.minutes is None:
            yield about(
                action,
                "how_long",
                "For how long? 10 minutes are taken.",
                *(to_values(f"{n} min", minutes=float(n)) for n in (5, 10, 20, 30)),
            )
        if verb in ("steep", "infuse", "macerate", "rest") and action.minutes is None and action.word:
            yield about(
                action,
                "how_long",
                "For how long? Nobody wrote it.",
                *(to_values(word, minutes=minutes) for word, minutes in (("20 min", 20.0), ("2 h", 120.0), ("a night", 720.0))),
            )
        if any(q.kind == "ph" for q in action.quantities):
            yield about(action, "ph_for_acidity", "pH is not sourness: dose by a titration. Which g per 100 mL is meant?")


def _out_of_range(action: Action, verb: str, about: Callable[..., Doubt]) -> Iterator[Doubt]:
    """Yields a doubt for a temperature, °Bx or time of an action that a step of its verb cannot have. `about` makes a doubt of the action."""
    heat = action.celsius.value if action.celsius is not None else None
    bounds = out_of_bounds(verb, heat) if heat is not None else None
    if bounds is not None:
        yield about(action, "cannot_be_done", f"{heat:g} °C cannot be here: {bounds.text()}. What is meant?")
    brix = brix_boiled_to(heat) if heat is not None and verb == "reduce" else None
    if brix is not None and brix > MOST_BRIX:
        question = f"What boils at {heat:g} °C has {brix:g} °Bx, and a reduction is worked out to {MOST_BRIX:g} °Bx: where does it stop?"
        yield about(action, "end_state", question, to_values(f"at {MOST_BRIX:g} °Bx", to_brix=MOST_BRIX), *_shares())
    if action.minutes is not None and action.minutes.value > MOST_MINUTES and verb != "store":
        yield about(action, "how_long", "A step takes 400 days at most, and this is longer: how long?")


def _says_how_far(action: Action, reading: TextReading) -> bool:
    return any(
        reading.words.at("shares", action.tokens, at) or reading.words.at("fractions", action.tokens, at)
        for at in range(len(action.tokens))
    )


def _shares() -> Iterator[Answer]:
    for word, share in (("to a third", 1 / 3), ("to half", 0.5), ("to two thirds", 2 / 3)):
        yield to_values(word, to_fraction=round(share, 4))


def _by_weight(text: str, reading: TextReading) -> bool:
    """Returns True for “equal parts honey and water by weight”."""
    said = reading.words.phrases["by_basis"].within(tokens_of(text))
    return said is not None and said[2] == "weight"


def of_the_list(reading: TextReading) -> Iterator[Doubt]:
    """Yields one question for all parts, and one for all percent that name nothing."""
    for kind, code, question, answers in (
        (
            "parts",
            "parts_basis",
            "Parts by weight or by volume?",
            (Answer("by weight"), Answer("by volume", (Change({"by_volume": True}),))),
        ),
        ("percent", "percent_of_what", "Percent of what, and by weight or by volume?", (Answer("of the whole, by weight"),)),
    ):
        items = [item for item in reading.listed if item.amount.kind == kind and item.per is None]
        asked = {(doubt.start, doubt.end) for doubt in reading.doubts if doubt.code == code}
        for item in items:
            if (item.start, item.end) not in asked and not (
                kind == "parts" and _by_weight(reading.text.split("\n")[item.line - 1], reading)
            ):
                yield Doubt(code, item.line, item.text, question, answers, item.start, item.end)
