"""Labels: as a page of a PDF in several sizes, and as plain lines for a label printer."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from html import escape
from typing import Any

from django.http import HttpResponse

from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.register import KINDS

from .faces import FACES

SIZES = {"100x70": (100, 70), "62x100": (62, 100), "60x40": (60, 40)}
"""Width and height [mm] by name; the first is the usual one."""
_SIZE = re.compile(r"([0-9]{2,3})x([0-9]{2,3})")
MOST_LABELS = 200
_STYLE = """
body { font-family: Text, sans-serif; line-height: 1.25; color: #13223A; margin: 0; }
table { width: 100%; border-collapse: collapse; } td { vertical-align: top; padding: 0; }
h1 { font-family: Head, sans-serif; font-size: 2em; line-height: 1.05; margin: 0 0 0.3em; }
.code { width: 14mm; padding-left: 2mm; text-align: center; font-weight: 700; }
.large .code { width: 23mm; } .code img { width: 100%; display: block; }
.strong { border: 0.5mm solid #13223A; border-radius: 2mm; padding: 0.2em 0.5em; margin: 0.25em 0; font-size: 1.6em; line-height: 1.15; font-weight: 700; }
.small h1 { font-size: 1.6em; line-height: 1; margin: 0 0 0.1em; } .small .strong { font-size: 1.3em; padding: 0 0.4em; margin: 0.15em 0; border-width: 0.35mm; line-height: 1.05; }
.glance { font-family: Head, sans-serif; font-size: 8mm; line-height: 1; font-weight: 800; margin: 0.5mm 0; } .small .glance { font-size: 7.2mm; line-height: 0.9; white-space: nowrap; margin: 0; }
p { margin: 0.2em 0 0; } .small p { margin: 0.1em 0 0; line-height: 1.15; }
"""
_LARGE_PT, _SMALL_PT, _LEAST_PT = 7.6, 6.0, 5.0
"""What stands in lines is set in so many points, and shrinks to the least of them before a label is said to be too small."""
_SHRINKS = 0.92


@dataclass(frozen=True)
class Label:
    """The content of one label: a title, what must be seen first (`strong`), and the rest; the code leads to `address`."""

    code: str
    address: str
    title: str
    strong: tuple[str, ...]
    lines: tuple[str, ...]
    vital: tuple[str, ...] = ()
    """The lines that even the smallest label carries."""
    glance: str = ""
    """What is read at a metre: “pour until SAT”. Its letters never shrink."""

    def plain(self, size: str) -> list[str]:
        """Returns the label in the printer's own lines (docs/formats/instruments.md)."""
        strong = [f"strong {text}" for text in (*([self.glance] if self.glance else []), self.title, *self.strong)]
        return [f"label {self.code} {size}", *strong, *(f"line {text}" for text in self.lines), f"code {self.address}"]


def checked_size(size: str) -> tuple[int, int]:
    """Returns width and height [mm] of a size: one that ships, or any that a house's register may hold. Raises Refusal for another."""
    if size in SIZES:
        return SIZES[size]
    written = _SIZE.fullmatch(size)
    wide, high = KINDS["label"].figures
    if written is None or not (wide.low <= int(written[1]) <= wide.high and high.low <= int(written[2]) <= high.high):
        raise Refusal(
            message("There is no label of size “{size}”", size=size),
            "size",
            message(
                "there are {sizes}, or width and height in mm, from {least} to {most}",
                sizes=listed(SIZES, "comma"),
                least=f"{wide.low:g}x{high.low:g}",
                most=f"{wide.high:g}x{high.high:g}",
            ),
            code="unknown_reference",
        )
    return int(written[1]), int(written[2])


def _section(label: Label, small: bool) -> str:
    import segno

    code = segno.make(label.address, error="m").svg_data_uri(scale=4, border=1)
    glance = f'<div class="glance">{escape(label.glance)}</div>' if label.glance else ""
    strong = "".join(f'<div class="strong">{escape(text)}</div>' for text in label.strong)
    lines = "".join(f"<p>{escape(text)}</p>" for text in ((label.vital or label.lines) if small else label.lines))
    # Nothing that must be read may run under the code, nor be cut off at the edge.
    # The smallest label has its first row for what is read at a metre, across the whole of it.
    head, glance_in = (glance, "") if small else ("", glance)
    return (
        f'<section class="{"small" if small else "large"}">{head}<table><tr><td>{glance_in}<h1>{escape(label.title)}</h1>{strong}</td>'
        f'<td class="code"><img src="{code}" alt="">{escape(label.code)}</td></tr></table>{lines}</section>'
    )


def _page(label: Label, size: str) -> Any:
    """Returns the one page of a label, in the largest letters that fit. Raises Refusal for a label that its size cannot hold."""
    from weasyprint import HTML

    width, height = checked_size(size)
    small = width * height < 5000
    page = f"@page {{ size: {width}mm {height}mm; margin: {4 if height > 50 else 2}mm }}"
    points = _SMALL_PT if small else _LARGE_PT
    while points >= _LEAST_PT:
        style = f"{FACES}{_STYLE}{page} section {{ font-size: {points:.2f}pt }}"
        whole = f"<!doctype html><html lang='en'><title>{escape(label.code)}</title><style>{style}</style><body>{_section(label, small)}</body></html>"
        document = HTML(string=whole).render()
        if len(document.pages) == 1:
            return document
        points *= _SHRINKS
    raise Refusal(
        message("{label} has more to say than {width} × {height} mm can hold", label=label.code, width=width, height=height),
        "size",
        remedy=message("Choose a larger label"),
        code="no_room",
    )


def labels_pdf(labels: Sequence[Label], size: str = "100x70") -> bytes:
    """Returns one page for each label. Raises Refusal for an unknown size, one that cannot hold all that must be said, and more than `MOST_LABELS`."""
    checked_size(size)
    if not 0 < len(labels) <= MOST_LABELS:
        raise Refusal(
            message("{n} labels cannot be printed", n=len(labels)),
            "copies",
            message("from 1 to {most}", most=MOST_LABELS),
            code="out_of_bounds",
        )
    documents = {label: _page(label, size) for label in dict.fromkeys(labels)}
    first = documents[labels[0]]
    return first.copy([documents[label].pages[0] for label in labels]).write_pdf()  # type: ignore[no-any-return]


def pdf_answer(labels: Sequence[Label], size: str, name: str) -> HttpResponse:
    """Returns the labels as a PDF that a browser shows, with a file name."""
    answer = HttpResponse(labels_pdf(labels, size), content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{name}.pdf"'
    return answer
