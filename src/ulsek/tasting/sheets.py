"""Tasters' sheets on paper: one for each seat, with the codes in the order served and nothing that says what is in them."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape

from ulsek.core.base.figures import SCORE
from ulsek.core.tasting.design import PanelDesign, SheetPage
from ulsek.core.tasting.methods import ATTRIBUTES, METHODS
from ulsek.devices.faces import FACES

from .models import Panel

_STYLE = f"""
{FACES}
@page {{ size: A5; margin: 11mm 12mm; }}
body {{ font-family: Text, sans-serif; font-size: 11pt; line-height: 1.3; color: #13223A; margin: 0; }}
article {{ page-break-after: always; }} article:last-child {{ page-break-after: auto; }}
h1 {{ font-family: Head, sans-serif; font-size: 20pt; line-height: 1.1; margin: 0 0 1mm; }} .quiet {{ color: #44556A; }}
.set {{ border-top: .3mm solid #1B3A6B; padding: 3mm 0 5mm; page-break-inside: avoid; }} .turn {{ font-size: 9pt; color: #44556A; }}
.box {{ display: inline-block; border: .4mm solid #1B3A6B; border-radius: 2mm; padding: 3mm 5mm; margin: 1.5mm 3mm 0 0; font-weight: 700; font-size: 14pt; }}
.rank {{ display: inline-block; border-bottom: .4mm solid #1B3A6B; width: 16mm; margin: 7mm 3mm 0 0; text-align: center; font-size: 9pt; }}
.line {{ border: solid #1B3A6B; border-width: 0 .5mm; height: 6mm; margin: 5mm 2mm 0; position: relative; }} .line i {{ position: absolute; left: 0; right: 0; top: 3mm; border-top: .5mm solid #1B3A6B; }}
.ends {{ display: flex; justify-content: space-between; font-size: 9pt; margin: 0 2mm; }} .marks td {{ padding: 1mm 2mm; }} .marks i {{ display: inline-block; width: 5mm; height: 5mm; border: .3mm solid #1B3A6B; }}
.name {{ display: inline-block; width: 60mm; border-bottom: .2mm solid #44556A; }}
"""


def _codes(page: SheetPage) -> str:
    return "".join(f'<span class="box">{code}</span>' for code in page.codes)


def _asked(page: SheetPage, attributes: Sequence[str]) -> str:
    """Returns the boxes, places or lines of one page."""
    if page.asks == "same":
        return f'{_codes(page)}<br><span class="box">the same</span><span class="box">different</span>'
    if page.asks == "ranking":
        places = "".join(f'<span class="rank">{place}.</span>' for place in range(1, len(page.codes) + 1))
        return f"{_codes(page)}<br>{places}"
    if page.asks == "liking":
        ends = f'<div class="ends"><span>{SCORE.low:.0f} not at all</span><span>very much {SCORE.high:.0f}</span></div>'
        return f'{_codes(page)}<div class="line"><i></i></div>{ends}'
    if page.asks == "attributes":
        rows = "".join(
            f"<tr><td>{escape(str(item.little))}</td><td>{'<i></i> ' * 5}</td><td>{escape(str(item.much))}</td></tr>"
            for item in (ATTRIBUTES[key] for key in attributes)
        )
        return f'{_codes(page)}<table class="marks">{rows}</table>'
    return _codes(page)


def _sheet(panel: Panel, design: PanelDesign, number: int, pages: Sequence[SheetPage]) -> str:
    method = METHODS[design.method]
    sets = "".join(
        f'<div class="set"><p class="turn">{page.turn} of {len(pages)} · water, then taste from left to right</p>{_asked(page, design.attributes)}</div>'
        for page in pages
    )
    return (
        f"<article><h1>{escape(str(method.task))}</h1><p>{escape(str(method.hint))}</p>"
        f'<p class="quiet">{escape(panel.code)} · seat {number} · <span class="name">name</span></p>{sets}</article>'
    )


def sheets_pdf(panel: Panel) -> bytes:
    """Returns one answer sheet for each seat of an open panel, as a PDF of A5 pages. Raises Refusal if the panel's key is not on this site."""
    from weasyprint import HTML

    design = panel.planned
    by_seat: dict[int, list[SheetPage]] = {}
    for page in panel.pages:
        by_seat.setdefault(page.seat, []).append(page)
    sheets = "".join(_sheet(panel, design, number, pages) for number, pages in sorted(by_seat.items()))
    whole = f"<!doctype html><html lang='en'><title>{escape(panel.code)}</title><style>{_STYLE}</style><body>{sheets}</body></html>"
    return HTML(string=whole).write_pdf()  # type: ignore[no-any-return]
