"""The allergen sheet on paper and as a table."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape

from ulsek.core.base.tables import csv_text
from ulsek.core.release.allergen_sheet import sheet_rows
from ulsek.devices.faces import FACES
from ulsek.team.access import Member

from .menu_schemas import AllergenSheetOut

_STYLE = f"""
{FACES}
@page {{ size: A4 landscape; margin: 11mm 11mm; @bottom-right {{ content: counter(page) " / " counter(pages); font: 9pt Text; }} }}
body {{ font-family: Text, sans-serif; font-size: 9pt; line-height: 1.25; color: #13223A; margin: 0; }}
h1 {{ font-family: Head, sans-serif; font-size: 20pt; line-height: 1.1; margin: 0 0 1mm; }} h2 {{ font-family: Head, sans-serif; font-size: 12pt; margin: 5mm 0 1mm; }}
.quiet {{ color: #44556A; }} table {{ width: 100%; border-collapse: collapse; margin-top: 3mm; }} thead {{ display: table-header-group; }}
th {{ font-size: 8pt; font-weight: 600; text-align: center; padding: 1mm .5mm; }} th:first-child, td:first-child {{ text-align: left; }}
td {{ border-top: .25mm solid #1B3A6B; padding: 1.5mm .5mm; text-align: center; font-size: 8.5pt; }} tr {{ page-break-inside: avoid; }}
.holds {{ background: #13223A; color: #fff; font-weight: 700; }} .gear {{ background: #E3EAF3; }} .ask {{ font-style: italic; }} p {{ margin: 1mm 0; }}
"""


def sheet_html(member: Member, found: AllergenSheetOut) -> str:
    """Returns the sheet as pages of HTML, to be made a PDF: the table, what the marks mean, and each drink in words."""
    head = "".join(f"<th>{escape(word)}</th>" for word in found.sheet.allergens)
    rows = "".join(
        f"<tr><td><b>{escape(row.name)}</b></td>" + "".join(f"<td class='{mark}'>{mark}</td>" for mark in row.marks) + "</tr>"
        for row in found.sheet.rows
    )
    words = "".join(f"<p><b>{escape(row.name)}:</b> {escape(str(row.answer.words))}</p>" for row in found.sheet.rows)
    failed = "".join(f"<p><b>{escape(name)}:</b> its spec cannot be worked out; ask the lead.</p>" for name in found.failed)
    legend = " ".join(str(line) for line in found.sheet.legend)
    day = f"{found.day:%A %d %B %Y}"
    empty = "" if found.sheet.rows else "<p>No drink is on the menu on this day.</p>"
    return (
        f"<html lang='en'><head><title>Allergens, {day}</title><style>{_STYLE}</style></head><body><h1>Allergens of the menu</h1>"
        f"<p class='quiet'>{escape(member.house.name)} · {day} · as of {found.at:%d %B %Y, %H:%M}</p>"
        f"<table><thead><tr><th></th>{head}</tr></thead><tbody>{rows}</tbody></table>{empty}<p class='quiet'>{escape(legend)}</p>"
        f"<h2>In words</h2>{words}{failed}</body></html>"
    )


def sheet_csv(member: Member, found: AllergenSheetOut) -> str:
    """Returns the sheet as CSV; each row begins with the house, the day of the menu and the moment as of which it was worked out."""
    before = (member.house.name, found.day.isoformat(), found.at.isoformat(timespec="minutes"))

    def rows() -> Iterator[tuple[str, ...]]:
        yield from sheet_rows(found.sheet, ("house", "day", "as of"), before)
        for name in found.failed:
            yield (*before, name, *("ask" for _ in found.sheet.allergens), "", "", name)

    return csv_text(rows())
