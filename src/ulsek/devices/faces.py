"""The fonts of what is printed. They lie here, so that paper needs nothing of what the front end is built from; their licences stand beside them."""

from __future__ import annotations

from pathlib import Path

FONTS = Path(__file__).parent / "fonts"
_LATIN_EXT = "U+0100-02BA, U+02BD-02C5, U+02C7-02CC, U+02CE-02D7, U+02DD-02FF, U+0304, U+0308, U+0329, U+1D00-1DBF, U+1E00-1E9F, U+1EF2-1EFF, U+2020, U+20A0-20AB, U+20AD-20C0, U+2113, U+2C60-2C7F, U+A720-A7FF"
"""The letters of Europe's other languages, which stand in files of their own."""


def _face(name: str, file: str, letters: str = "") -> str:
    only = f" unicode-range: {letters};" if letters else ""
    return f"@font-face {{ font-family: {name}; src: url(file://{FONTS / file}.woff2); font-weight: 200 800;{only} }}"


FACES = "".join(
    _face(name, f"{folder}-latin-wght-normal") + _face(name, f"{folder}-latin-ext-wght-normal", _LATIN_EXT)
    for name, folder in (("Text", "atkinson-hyperlegible-next"), ("Head", "bricolage-grotesque"))
)
"""CSS of the two faces: `Text`, and `Head` for titles."""
