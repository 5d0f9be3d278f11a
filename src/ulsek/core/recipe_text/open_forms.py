"""Other open forms of a spec: Recipe in JSON-LD (schema.org), and materials as CSV. Each reader tells what it understood and what not."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from ..base.answer import DescribedAs, OpenForm
from ..base.messages import Message, counted, listed, message, verbatim
from ..base.refusals import Refusal
from ..base.strict_json import read_json
from ..base.tables import csv_text, plain_cell
from ..base.units import Locale
from ..base.weighing import Scales
from ..evaluation.evaluate import Evaluation
from ..materials.material import Material, read_material
from ..results.spec_card import card, on_scale
from ..spec.json_form import FORMAT, read_spec
from ..spec.object_reader import MOST_TEXT
from ..spec.sentences import material_name
from .claims import Claim
from .parser import AskedDoubt, parse_recipe
from .phrases import TextPhrase
from .several import recipes_of, table_of, within_most
from .text_reading import Shelf, Words

MOST_BYTES = 1_000_000
"""How a cell begins that a spreadsheet works out instead of showing it."""
_OPENS, _CLOSES = re.compile(r"<script\b", re.IGNORECASE), re.compile(r"</script>", re.IGNORECASE)
_OF_DATA = re.compile(r"type\s*=\s*[\"']application/ld\+json[\"']", re.IGNORECASE)
_COLUMNS = ("key", "name", "kind", "water_g", "sugar_g", "acid_g", "spirit_g", "rest_g", "price_per_kg", "allergens", "source")


def loaded(text: str, where: str = "file") -> Any:
    """Returns the value of a JSON text. Raises Refusal for one that is too long, cut off, or refused by `read_json`."""
    if len(text.encode("utf-8", "replace")) > MOST_BYTES:
        raise Refusal(message("The file is too long"), where, message("at most 1 MB"), message("Export one spec at a time"), "too_long")
    try:
        return read_json(text, where)
    except Refusal as refusal:
        raise Refusal(
            message("The file is no JSON, or it is cut off"), where, refusal.bound, message("Export it again"), refusal.code
        ) from None


def _scripts(text: str) -> Iterator[str]:
    """Yields the content of each linked-data script of a page. Every letter is read a fixed number of times, whatever the page holds."""
    at = 0
    while (opens := _OPENS.search(text, at)) and (ends := text.find(">", opens.end())) >= 0:
        closes = _CLOSES.search(text, ends)
        if closes is None:
            return
        if _OF_DATA.search(text, opens.end(), ends):
            yield text[ends + 1 : closes.start()]
        at = closes.end()


def as_recipe(evaluation: Evaluation, language: str = "en") -> dict[str, Any]:
    """Returns a spec as a schema.org Recipe: names, amounts and steps in words, times as ISO 8601, yield."""
    made = card(evaluation, language)
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    minutes = max(done.ends_min for done in evaluation.flow.steps)
    lines = [
        message(
            "{mass} {name}", mass=on_scale(evaluation.flow.masses[line.id], Scales()), name=material_name(line.material, materials, spec)
        ).text(language)
        for line in spec.lines.values()
        if line.id in evaluation.flow.masses
    ]
    return {
        "@context": "https://schema.org",
        "@type": "Recipe",
        "name": spec.name,
        "recipeCategory": made.family,
        "inLanguage": language,
        "recipeYield": made.makes,
        "totalTime": f"PT{round(minutes)}M",
        "recipeIngredient": [plain_gaps(line) for line in lines],
        "recipeInstructions": [
            {"@type": "HowToStep", "text": plain_gaps(step.title + (f". {step.note}" if step.note else ""))} for step in made.steps
        ],
        **({"isBasedOn": spec.source} if spec.source else {}),
        **({"usageInfo": spec.permission} if spec.permission else {}),
    }


def plain_gaps(text: str) -> str:
    """Returns a text with ordinary spaces, for forms that other programs read."""
    return text.replace("\u00a0", " ")


def recipes_in(text: str) -> list[dict[str, Any]]:
    """Returns the Recipes in a JSON-LD file, or in a page that holds some. Raises Refusal for a text without one."""
    found = [recipe for part in (_scripts(text) if "<" in text[:2000] else [text]) for recipe in _recipes(loaded(part))]
    if found:
        return found
    raise Refusal(
        message("There is no recipe in this"),
        "file",
        message("a Recipe in JSON-LD, or a page that holds one"),
        message("Paste its text instead"),
        "not_ours",
    )


def _recipes(data: Any) -> Iterator[dict[str, Any]]:
    if isinstance(data, dict):
        kinds = data.get("@type")
        if kinds == "Recipe" or (isinstance(kinds, list) and "Recipe" in kinds):
            yield data
        else:
            yield from _recipes(data.get("@graph"))
    elif isinstance(data, list):
        for item in data:
            yield from _recipes(item)


def _sentences(value: Any) -> Iterable[str]:
    if isinstance(value, str):
        yield from (line for line in re.split(r"\n+", value) if line.strip())
    elif isinstance(value, dict):
        yield from _sentences(value.get("text") or value.get("itemListElement") or value.get("name"))
    elif isinstance(value, list):
        for item in value:
            yield from _sentences(item)


_TAG = re.compile(r"<[^<>]*>")


def recipe_text(recipe: Mapping[str, Any]) -> tuple[str, list[str]]:
    """Returns a Recipe as text for the parser, and the names of its members that were not understood. Tags are omitted."""
    name = recipe.get("name")
    lines = [str(name) if isinstance(name, str) else "Recipe", ""]
    ingredients = recipe.get("recipeIngredient", recipe.get("ingredients", []))
    lines += [str(item) for item in (ingredients if isinstance(ingredients, list) else [ingredients])]
    lines += ["", *_sentences(recipe.get("recipeInstructions"))]
    used = {"@context", "@type", "name", "recipeIngredient", "ingredients", "recipeInstructions", "isBasedOn", "usageInfo"}
    return _TAG.sub(" ", "\n".join(lines)), sorted(key for key in recipe if key not in used)


def materials_csv(materials: Mapping[str, Material]) -> str:
    """Returns materials as CSV, in grams per 100 g by group of substances; prices per kilogram."""
    rows: list[tuple[str, ...]] = [_COLUMNS]
    for key, material in materials.items():
        bands = material.per_gram().bands()
        grams = (f"{100.0 * bands[band]:.4g}" for band in ("water", "sugar", "acid", "spirit", "solids"))
        price = "" if material.price_per_kg is None else str(material.price_per_kg)
        rows.append((key, material.name, material.kind, *grams, price, "; ".join(material.allergens), ""))
    return csv_text(rows)


_BY_BAND = {"sugar_g": "sucrose", "acid_g": "citric_acid", "spirit_g": "ethanol", "rest_g": "other_solubles"}


def materials_from_csv(text: str) -> tuple[dict[str, dict[str, Any]], list[Message]]:
    """Returns the materials of a CSV text in the open form, and what was not understood, by row. Raises Refusal for a text without the columns `key` and
    `name`.

    Sugar counts as sucrose, acid as citric, the rest as other solubles: the table holds groups, not substances.
    """
    if len(text.encode("utf-8", "replace")) > MOST_BYTES:
        raise Refusal(message("The file is too long"), "file", message("at most 1 MB"), code="too_long")
    rows = csv.DictReader(io.StringIO(text))
    if not rows.fieldnames or not {"key", "name"} <= set(rows.fieldnames):
        raise Refusal(
            message("These are no materials"),
            "file",
            message("a first row with {columns}", columns=listed(_COLUMNS, "comma")),
            code="not_ours",
        )
    found: dict[str, dict[str, Any]] = {}
    trouble: list[Message] = []
    for number, row in enumerate(rows, 2):
        key = plain_cell(row.get("key"))
        try:
            grams = {substance: float(row.get(column) or 0) for column, substance in _BY_BAND.items()}
            body: dict[str, Any] = {
                "name": plain_cell(row.get("name")) or key,
                "kind": (row.get("kind") or "other").strip(),
                "makeup": {
                    "by": "substance",
                    "g_per_100g": {name: value for name, value in grams.items() if value},
                    "source": plain_cell(row.get("source")) or "a table",
                },
            }
            if row.get("price_per_kg"):
                body["price_per_kg"] = row["price_per_kg"].strip()
            if row.get("allergens"):
                body["allergens"] = [item.strip() for item in plain_cell(row["allergens"]).split(";") if item.strip()]
            read_material(key, body)
            found[key] = body
        except ValueError:
            trouble.append(message("row {number}: a number cannot be read", number=number))
        except Refusal as refusal:
            trouble.append(message("row {number}: {refusal}", number=number, refusal=refusal.message))
    return found, trouble


@dataclass(frozen=True, slots=True)
class NewMaterial:
    """A material that came with a spec file and that the house does not have: its key and its name."""

    key: str
    name: str


@dataclass(frozen=True, slots=True)
class Understood:
    """A text that was read: its kind of file, the spec, what was understood, what not, and every doubtful reading; of a recipe in words its claims and phrases, which are places in
    the note of the body; of a spec file the materials that came with it and that are new here.
    """

    kind: Literal["spec file", "recipe file", "recipe text"]
    body: Annotated[OpenForm, DescribedAs("SpecFile")]
    understood: tuple[Message, ...]
    not_understood: tuple[Message, ...]
    doubts: tuple[AskedDoubt, ...] = ()
    claims: tuple[Claim, ...] = ()
    phrases: tuple[TextPhrase, ...] = ()
    language: str = ""
    new_materials: tuple[NewMaterial, ...] = ()


def _counted(body: Mapping[str, Any], known: Mapping[str, Any]) -> tuple[list[Message], list[Message]]:
    """Returns what a body holds, in words, and what of it cannot be read or is not known here."""
    spec = read_spec(body, strict=False)
    own = body.get("materials") if isinstance(body.get("materials"), dict) else {}
    strangers = [key for key in spec.mentioned if key and key not in known and key not in (own or {})]
    counts = (
        counted("{n} step", "{n} steps", len(spec.steps)),
        counted("{n} line", "{n} lines", len(spec.lines)),
        counted("{n} vessel", "{n} vessels", len(spec.vessels)),
        counted("{n} group of options", "{n} groups of options", len(spec.options)),
    )
    held = [count for count, items in zip(counts, (spec.steps, spec.lines, spec.vessels, spec.options), strict=True) if items]
    missed = [message("{place}: {fault}", place=fault.where, fault=fault.message) for fault in spec.faults]
    return held, missed + [message("“{key}” is no material of this house", key=key) for key in strangers]


def _new_materials(body: Mapping[str, Any], known: Mapping[str, Any]) -> tuple[list[NewMaterial], dict[str, Message]]:
    """Returns the materials of a spec file that the house does not have, and for each key that cannot be used why."""
    own = body.get("materials")
    found: list[NewMaterial] = []
    unusable: dict[str, Message] = {}
    for key, item in own.items() if isinstance(own, dict) else ():
        # What was taken as something when a text was read is a question, not a material.
        if key in known or (isinstance(item, dict) and item.get("taken_as")):
            continue
        try:
            found.append(NewMaterial(key, read_material(key, item).name))
        except Refusal as refusal:
            unusable[key] = refusal.message
    return found, unusable


@dataclass(frozen=True, slots=True)
class ReadPart:
    """One recipe of a text: its own words, and what was understood of them, or why they were refused."""

    text: str
    read: Understood | None
    refused: Message | None = None


def read_many(
    text: str, known: Mapping[str, Any], locale: Locale = "metric", words: Words | None = None, shelf: Shelf = None
) -> tuple[ReadPart, ...]:
    """Returns the recipes of a text, each read by itself: a spec file, recipes in JSON-LD or in a page, a table of recipes, or recipes in words. Nothing is stored.

    Raises Refusal as `read_any` does where there is only one recipe, and for more than 60.
    """
    bare = _bare(text)
    if bare.startswith(("{", "[")) or next(_scripts(bare), None) is not None:
        recipes = [] if _is_spec(bare) else recipes_in(bare)
        if len(recipes) < 2:
            return (ReadPart(bare, read_any(bare, known, locale, words, shelf)),)
        return tuple(
            _part(recipe_text(recipe)[0], lambda recipe=recipe: _of_recipe(recipe, known, locale, words, shelf))  # type: ignore[misc]
            for recipe in within_most(recipes)
        )
    parts = table_of(bare) or recipes_of(bare, known)
    if len(parts) < 2:
        return tuple(ReadPart(part, read_any(part, known, locale, words, shelf)) for part in parts)
    return tuple(_part(part, lambda part=part: _of_words(part, known, locale, words, shelf)) for part in parts)  # type: ignore[misc]


def _part(text: str, read: Callable[[], Understood]) -> ReadPart:
    try:
        return ReadPart(text, read())
    except Refusal as refusal:
        return ReadPart(text, None, refusal.message)


def _bare(text: str) -> str:
    if len(text) > MOST_BYTES:
        raise Refusal(message("The text is too long"), "text", message("at most 1 MB"), message("Paste one recipe at a time"), "too_long")
    return text.strip()


def _is_spec(bare: str) -> bool:
    """Returns True for a spec file. Raises Refusal for another file of a format of its own, and for broken JSON."""
    data = loaded(bare) if bare.startswith(("{", "[")) else None
    if isinstance(data, dict) and data.get("format", FORMAT) != FORMAT:
        raise Refusal(
            message("This is no Ulsek spec file"),
            "format",
            message("format must be “{format}”", format=FORMAT),
            message("Open a spec file"),
            "not_ours",
        )
    return isinstance(data, dict) and "format" in data


def read_any(text: str, known: Mapping[str, Any], locale: Locale = "metric", words: Words | None = None, shelf: Shelf = None) -> Understood:
    """Returns a text read as what it is: a spec file, a recipe in JSON-LD or in a page (the first of them), else a recipe in words. Nothing is stored.

    Raises Refusal for what is cut off, too long, nested too deep, of a later version, or unreadable.
    """
    bare = _bare(text)
    if _is_spec(bare):
        data = loaded(bare)
        held, missed = _counted(data, known)
        new, unusable = _new_materials(data, known)
        if unusable:
            data = {**data, "materials": {key: item for key, item in data["materials"].items() if key not in unusable}}
        return Understood("spec file", data, tuple(held), (*missed, *unusable.values()), new_materials=tuple(new))
    if bare.startswith(("{", "[")) or next(_scripts(bare), None) is not None:
        return _of_recipe(recipes_in(bare)[0], known, locale, words, shelf)
    return _of_words(bare, known, locale, words, shelf)


def _of_recipe(recipe: Mapping[str, Any], known: Mapping[str, Any], locale: Locale, words: Words | None, shelf: Shelf) -> Understood:
    plain_text, strange = recipe_text(recipe)
    read = parse_recipe(plain_text, locale, known, words, shelf)
    missed = [verbatim(key) for key in strange]
    body = dict(read.draft)
    based_on = recipe.get("isBasedOn")
    if isinstance(based_on, str) and len(based_on) > MOST_TEXT:
        missed = [*missed, message("isBasedOn: longer than {most} letters", most=MOST_TEXT)]
    elif isinstance(based_on, str):
        body["source"] = based_on
    understood = tuple(_counted(body, known)[0])
    return Understood("recipe file", body, understood, tuple(missed), read.doubts, read.claims, read.phrases, read.language)


def _of_words(text: str, known: Mapping[str, Any], locale: Locale, words: Words | None, shelf: Shelf) -> Understood:
    read = parse_recipe(text, locale, known, words, shelf)
    understood = tuple(_counted(read.draft, known)[0])
    return Understood("recipe text", read.draft, understood, (), read.doubts, read.claims, read.phrases, read.language)
