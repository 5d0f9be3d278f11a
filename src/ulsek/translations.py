"""The catalogues of messages, brought up to date by `bin/types`: templates are extracted from the code, and every language's file is compiled.

Each ``core/data/messages/*.po`` is edited by translators and holds what is translated; the ``.mo`` beside it is written here. A new language starts as
an empty ``.po`` file there. ``python -m ulsek.translations es`` prints what Spanish does not have yet.
"""

from __future__ import annotations

import ast
import json
import sys
from collections.abc import Iterator, Mapping, Sequence
from io import BytesIO
from pathlib import Path
from typing import Any

from babel.messages.catalog import Catalog
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

from .core.base.catalogue import DECIMAL_MARK
from .core.base.figures import FIGURES
from .core.chemistry.substances import SUBSTANCES
from .core.materials.reference_materials import typical_materials
from .core.operations.catalogue import VERBS
from .core.safety.hazards import CLAIMS, OTHER_CLAIMS
from .core.safety.shelf_life import COOL_DOWN, LAST_HEAT, MIXING
from .core.spec.sentences import TOOLS

SOURCE = Path(__file__).parent
MESSAGES = SOURCE / "core/data/messages"
_TEMPLATES = {"message": 1, "template": 1, "counted": 2, "in_context": 2}
"""How many of the first arguments of each call are templates, or a template's context."""

Key = tuple[str, str, str]
"""Context, template, and template for many; the first and the last may be empty."""


def calls(source: str) -> Iterator[tuple[ast.Call, Key | None]]:
    """Yields every call of the source that makes a message, with its key; None for a call whose template is no literal."""
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in _TEMPLATES:
            given = [item.value for item in node.args[: _TEMPLATES[node.func.id]] if isinstance(item, ast.Constant)]
            texts = [item for item in given if isinstance(item, str)]
            yield node, _key(node.func.id, texts) if len(texts) == _TEMPLATES[node.func.id] else None


def _key(function: str, texts: list[str]) -> Key:
    if function == "counted":
        return "", texts[0], texts[1]
    return (texts[0], texts[1], "") if function == "in_context" else ("", texts[0], "")


_PHRASES: Mapping[str, tuple[str, ...]] = {
    "citrus.json": ("words", "how"),
    "hazards.json": ("name", "words"),
    "keeping.json": ("words",),
    "leftovers.json": ("name", "how", "offer"),
    "legal_names.json": ("means", "needs"),
    "vocabulary.json": ("why", "ask"),
}
"""The members of each data file that are said as they stand there."""


def _phrases(data: Any, names: tuple[str, ...]) -> Iterator[str]:
    """Yields the texts and lists of texts under these names, however deep they stand."""
    if isinstance(data, dict):
        for found in (data.get(name, "") for name in names):
            yield from (text for text in (found if isinstance(found, list) else [found]) if isinstance(text, str) and text)
        data = list(data.values())
    for item in data if isinstance(data, list) else ():
        yield from _phrases(item, names)


def terms() -> Iterator[tuple[str, str]]:
    """Yields the set phrases of the registries and of the data, with the file of each: what `term` is called with and is no literal there."""
    for item in FIGURES.values():
        yield from ((text, "core/base/figures.py") for text in (item.name, item.formula) if text)
    for verb in VERBS.values():
        file = f"core/operations/{verb.__module__.rsplit('.', maxsplit=1)[-1]}.py"
        yield from ((text, file) for text in (*verb.usual_gear, verb.usual_check) if text)
    yield from ((substance.name, "core/chemistry/substances.py") for substance in SUBSTANCES.values())
    yield from ((text, "core/safety/hazards.py") for text in (*CLAIMS, *OTHER_CLAIMS))
    yield from ((text, "core/spec/sentences.py") for text in TOOLS)
    for material in typical_materials().values():
        yield from ((text, "core/materials/reference_materials.py") for text in material.get("allergens", ()))
    yield from ((text, "core/safety/shelf_life.py") for text in (COOL_DOWN, MIXING, LAST_HEAT))
    for file, names in _PHRASES.items():
        data = json.loads((SOURCE / "core/data" / file).read_text(encoding="utf-8"))
        yield from ((text, f"core/data/{file}") for text in _phrases(data, names))


def templates() -> dict[Key, list[str]]:
    """Returns every template of the code with the files, relative to the package, in which it stands."""
    found: dict[Key, list[str]] = {}

    def add(key: Key, file: str) -> None:
        files = found.setdefault(key, [])
        if file not in files:
            files.append(file)

    for path in sorted(SOURCE.rglob("*.py")):
        for _, key in calls(path.read_text(encoding="utf-8")):
            if key is not None and key[1]:
                add(key, path.relative_to(SOURCE).as_posix())
    for text, file in terms():
        add(("", text, ""), file)
    add((*DECIMAL_MARK, ""), "core/base/catalogue.py")
    return found


def merged(language: str, old: bytes) -> tuple[bytes, bytes]:
    """Returns a language's file without translations of templates that are gone, and the file compiled. What is not translated is left out of both."""
    before, after = read_po(BytesIO(old), locale=language), Catalog(locale=language, charset="utf-8", fuzzy=False)
    # The heading stays as it is, so that nothing but templates and translations can differ.
    after.header_comment, after.mime_headers = before.header_comment, before.mime_headers
    for key, files in sorted(templates().items()):
        translated = before.get(key[1], key[0] or None)
        if translated is not None and translated.string and all(_forms(translated.string)):
            _add(after, key, files, translated.string)
    text, compiled = BytesIO(), BytesIO()
    write_po(text, after, width=0, include_lineno=False)
    write_mo(compiled, after)
    return text.getvalue(), compiled.getvalue()


def missing(language: str, old: bytes) -> bytes:
    """Returns what a language does not have yet, as a file for its translator, to be joined to its catalogue."""
    before, after = read_po(BytesIO(old), locale=language), Catalog(locale=language, charset="utf-8", fuzzy=False)
    for key, files in sorted(templates().items()):
        if before.get(key[1], key[0] or None) is None:
            _add(after, key, files, ("",) * after.num_plurals if key[2] else "")
    text = BytesIO()
    write_po(text, after, width=0, include_lineno=False)
    return text.getvalue()


def _forms(translated: str | Sequence[str]) -> tuple[str, ...]:
    return (translated,) if isinstance(translated, str) else tuple(translated)


def _add(catalog: Catalog, key: Key, files: list[str], translated: str | Sequence[str]) -> None:
    context, template, plural = key
    catalog.add(
        (template, plural) if plural else template,
        translated if isinstance(translated, str) else tuple(translated),
        [(file, 0) for file in files],
        context=context or None,
    )


def main() -> None:
    """Writes every catalogue anew. With a language as argument, prints what it does not have yet."""
    if len(sys.argv) > 1:
        sys.stdout.buffer.write(missing(sys.argv[1], (MESSAGES / f"{sys.argv[1]}.po").read_bytes()))
        return
    for path in sorted(MESSAGES.glob("*.po")):
        text, compiled = merged(path.stem, path.read_bytes())
        path.write_bytes(text)
        path.with_suffix(".mo").write_bytes(compiled)
    sys.stdout.write("Catalogues written.\n")


if __name__ == "__main__":
    main()
