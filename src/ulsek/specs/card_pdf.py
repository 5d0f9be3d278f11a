"""Spec cards as PDF: one page each, or several as one booklet, with the code that opens the newest version."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from html import escape

from ulsek.core.results.spec_card import CardStep
from ulsek.devices.faces import FACES

from .library_schemas import CardOut

_STYLE = f"""
{FACES}
@page {{ size: A4; margin: 12mm 13mm; }}
body {{ font-family: Text, sans-serif; font-size: 10.5pt; line-height: 1.3; color: #13223A; margin: 0; }}
article {{ page-break-after: always; position: relative; }} article:last-child {{ page-break-after: auto; }}
h1 {{ font-family: Head, sans-serif; font-size: 25pt; line-height: 1.05; margin: 0 34mm 1mm 0; }}
.code {{ position: absolute; top: 0; right: 0; width: 26mm; text-align: center; font-size: 8pt; }} .code img {{ width: 26mm; height: 26mm; display: block; }}
.quiet {{ color: #44556A; }} .head {{ margin: 0 34mm 3mm 0; }} header {{ min-height: 31mm; }} .gone {{ border: 1mm solid #A2391F; color: #A2391F; font-weight: 700; padding: 2mm 3mm; margin: 2mm 0; }}
.gear {{ border-top: .4mm solid #1B3A6B; border-bottom: .4mm solid #1B3A6B; padding: 1.5mm 0; margin: 2mm 0; }}
table {{ width: 100%; border-collapse: collapse; }} td {{ vertical-align: top; padding: 1.4mm 1mm; border-bottom: .2mm solid #CBD4D8; }} tr {{ page-break-inside: avoid; }}
.n {{ width: 7mm; font-weight: 700; font-size: 13pt; color: #1B3A6B; }} .what b {{ font-size: 11.5pt; }} .amount {{ width: 62mm; text-align: right; }}
.amount b {{ font-size: 12pt; white-space: nowrap; }} dl {{ margin: 3mm 0 0; }} dt {{ font-weight: 700; float: left; clear: left; width: 34mm; }} dd {{ margin: 0 0 1mm 35mm; }}
.sign {{ margin-top: 4mm; }} .sign span {{ display: inline-block; width: 55mm; border-bottom: .2mm solid #44556A; margin-right: 5mm; padding-top: 6mm; font-size: 8.5pt; color: #44556A; }}
"""


def _row(step: CardStep, labels: Mapping[str, str], marks: bool) -> str:
    mark = f" <i>({escape(labels['as_written'])})</i>" if marks and step.note else ""
    note = f'<br><span class="quiet">{escape(step.note)}{mark}</span>' if step.note else ""
    place = f'<span class="quiet">{escape(step.place)}</span><br>' if step.place else ""
    check = f'<br><span class="quiet">{escape(step.check)}</span>' if step.check else ""
    amounts = "<br>".join(
        f"{escape(line.name)} <b>{escape(line.amount)}</b>"
        + (f' <span class="quiet">({escape(line.beside)})</span>' if line.beside else "")
        + f'<br><span class="quiet">{escape(line.how)}</span>'
        for line in step.lines
    )
    return f'<tr><td class="n">{step.number}</td><td class="what">{place}<b>{escape(step.title)}</b>{note}{check}</td><td class="amount">{amounts}</td></tr>'


def _article(made: CardOut) -> str:
    import segno

    labels = made.labels
    code = segno.make(made.address, error="m").svg_data_uri(scale=4, border=1)
    gone = f'<p class="gone">{escape(labels["withdrawn"])} {escape(made.withdrawn)}</p>' if made.withdrawn else ""
    facts = [
        (labels["reads"], " · ".join(made.reads)),
        (labels["keeps"], made.keeps),
        (labels["allergens"], made.allergens),
        (labels["free_from"], made.free_from),
        (labels["options"], ", ".join(made.options)),
        (labels["cautions"], " ".join(made.cautions)),
    ]
    listed = "".join(f"<dt>{escape(name)}</dt><dd>{escape(value)}</dd>" for name, value in facts if value)
    rows = "".join(_row(step, labels, made.marks) for step in made.steps)
    return (
        f'<article lang="{made.language}"><div class="code"><img src="{code}" alt=""><b>{escape(labels["version"])} {made.number}</b></div>'
        f"<header><h1>{escape(made.name)}</h1>"
        f'<p class="head">{escape(made.family)} · {escape(labels["version"])} {made.number}, {escape(made.author)}, {made.at:%Y-%m-%d}<br>'
        f"<b>{escape(labels['makes'])} {escape(made.makes)}</b> · {escape(labels['takes'])} {escape(made.takes)}</p></header>{gone}"
        f'<p class="gear"><b>{escape(labels["gear"])}:</b> {escape(", ".join(made.gear))}</p><table>{rows}</table><dl>{listed}</dl>'
        f'<p class="quiet">{escape(labels["follow"])}</p>'
        f'<p class="sign"><span>{escape(labels["signed"])}</span><span>{escape(labels["date"])}</span><span>{escape(labels["lot"])}</span></p></article>'
    )


def cards_pdf(cards: Sequence[CardOut], title: str) -> bytes:
    """Cards as one PDF, a page or more each."""
    from weasyprint import HTML

    language = cards[0].language if cards else "en"
    page = f"<!doctype html><html lang='{language}'><title>{escape(title)}</title><style>{_STYLE}</style><body>{''.join(map(_article, cards))}</body></html>"
    return HTML(string=page).write_pdf()  # type: ignore[no-any-return]
