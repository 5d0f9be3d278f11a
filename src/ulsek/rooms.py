"""Draws docs/rooms.svg: the packages of the project and of its core, with an arrow for each import. `bin/docs` runs it."""

from __future__ import annotations

import ast
import re
from collections.abc import Mapping
from html import escape
from pathlib import Path

ROOT = Path(__file__).parents[2]
SOURCE = ROOT / "src" / "ulsek"
PICTURE = ROOT / "docs" / "rooms.svg"
Imports = Mapping[str, frozenset[str]]
_BOX_W, _BOX_H, _ROW, _TOP, _LEFT, _PANEL = 440, 44, 62, 84, 24, 640
_LETTERS = 64
_STYLE = """text { font: 13px system-ui, sans-serif; fill: #14213d } .head { font-weight: 700; font-size: 20px } .name { font-weight: 700; font-size: 15px }
.box { fill: #fbfbf5; stroke: #1d3a6b; stroke-width: 1.2 } .arrow { fill: none; stroke: #1d3a6b; stroke-width: 1.3; opacity: .62 } .tip { fill: #1d3a6b } .soft { fill: #44546e; font-size: 12px }"""


def imports_of(package: str) -> dict[str, frozenset[str]]:
    """Returns the rooms below a package (dotted, below `ulsek`; empty for `ulsek` itself), each with the other rooms that its modules import.

    A room is a subpackage. Imports inside functions count, because they bind as much.
    """
    folder = SOURCE.joinpath(*package.split(".")) if package else SOURCE
    rooms = sorted(item.name for item in folder.iterdir() if (item / "__init__.py").exists())
    above = ("ulsek", *(package.split(".") if package else ()))
    found: dict[str, frozenset[str]] = {}
    for room in rooms:
        used = {name for path in (folder / room).rglob("*.py") for name in _imported(path)}
        parts = {name.split(".")[len(above)] for name in used if name.startswith(".".join((*above, "")))}
        found[room] = frozenset(part for part in parts if part in rooms and part != room)
    return found


def _imported(path: Path) -> set[str]:
    """Returns the dotted names that a module imports, relative ones made absolute."""
    own = path.relative_to(SOURCE.parent).with_suffix("").parts
    found: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.Import):
            found.update(item.name for item in node.names)
        elif isinstance(node, ast.ImportFrom):
            base = [*own[: len(own) - node.level], *([node.module] if node.module else [])] if node.level else [node.module or ""]
            found.update(".".join((*base, item.name)) for item in node.names)
    return found


def from_the_top(imports: Imports) -> list[str]:
    """Returns the rooms so that each stands above those that it imports, the longest chain first. Raises ValueError for a circle of imports."""
    depth: dict[str, int] = {}

    def depth_of(room: str, path: tuple[str, ...] = ()) -> int:
        if room in path:
            raise ValueError(f"a circle of imports: {' → '.join((*path, room))}")
        if room not in depth:
            depth[room] = 1 + max((depth_of(below, (*path, room)) for below in imports[room]), default=-1)
        return depth[room]

    return sorted(imports, key=lambda room: (-depth_of(room), room))


def without_detours(imports: Imports) -> dict[str, frozenset[str]]:
    """Returns the imports without those that follow from others: a room that is reached through another one is left out."""
    reached: dict[str, frozenset[str]] = {}
    for room in reversed(from_the_top(imports)):
        reached[room] = imports[room].union(*(reached[below] for below in imports[room]))
    return {room: below - frozenset().union(*(reached[other] for other in below)) for room, below in imports.items()}


def _about(package: str, room: str) -> str:
    """Returns the beginning of what a room says of itself, in one line."""
    path = SOURCE.joinpath(*package.split("."), room) if package else SOURCE / room
    said = ast.get_docstring(ast.parse((path / "__init__.py").read_text(encoding="utf-8"))) or ""
    first = re.split(r"\.\s", said.splitlines()[0] + " ")[0].removesuffix(".")
    return first if len(first) <= _LETTERS else first[: first[:_LETTERS].rfind(" ")].rstrip(",:;") + " …"


def _panel(package: str, title: str, left: int) -> tuple[list[str], int]:
    """Returns (the drawing of one stack of rooms, its height [px])."""
    imports = imports_of(package)
    order = from_the_top(imports)
    top = {room: _TOP + _ROW * n for n, room in enumerate(order)}
    drawn = [f'<text class="head" x="{left}" y="46">{escape(title)}</text>']
    for room in order:
        drawn += [
            f'<rect class="box" x="{left}" y="{top[room]}" width="{_BOX_W}" height="{_BOX_H}" rx="9"/>',
            f'<text class="name" x="{left + 12}" y="{top[room] + 18}">{room}/</text>',
            f'<text class="soft" x="{left + 12}" y="{top[room] + 36}">{escape(_about(package, room))}</text>',
        ]
    edge = left + _BOX_W
    for room, below in without_detours(imports).items():
        for other in sorted(below, key=lambda name: top[name]):
            if order.index(other) == order.index(room) + 1:
                x, y1, y2 = left + 40, top[room] + _BOX_H, top[other]
                drawn.append(f'<path class="arrow" d="M{x} {y1}V{y2 - 6}"/><path class="tip" d="M{x - 4} {y2 - 7}h8l-4 7z"/>')
                continue
            # Leaves low on its box and comes in high, so that what a box imports and what imports it are told apart.
            y1, y2 = top[room] + _BOX_H - 10, top[other] + 10
            bulge = min(170, 26 + (y2 - y1) // 6)
            drawn.append(
                f'<path class="arrow" d="M{edge} {y1}C{edge + bulge} {y1} {edge + bulge} {y2} {edge + 7} {y2}"/><path class="tip" d="M{edge + 8} {y2 - 4}v8l-8-4z"/>'
            )
    return drawn, _TOP + _ROW * len(order)


def picture() -> str:
    """Returns the picture as SVG: the apps on the left, the rooms of the core on the right, each above those that it imports."""
    apps, apps_high = _panel("", "The site, from the top down", _LEFT)
    rooms, rooms_high = _panel("core", "The rooms of the core", _LEFT + _PANEL)
    width, height = 2 * _PANEL + _LEFT, max(apps_high, rooms_high) + 40
    note = f'<text class="soft" x="{_LEFT}" y="{height - 18}">Written by bin/docs from the imports in the code. An arrow is an import; one that follows from others is left out.</text>'
    head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}" role="img" aria-label="The rooms of Ulsek and what each imports">'
    return "\n".join(
        [head, f"<style>{_STYLE}</style>", f'<rect width="{width}" height="{height}" fill="#e9edee"/>', *apps, *rooms, note, "</svg>", ""]
    )


def main() -> int:
    PICTURE.write_text(picture(), encoding="utf-8")
    print("Drew docs/rooms.svg.")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
