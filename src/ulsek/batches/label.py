"""Labels: what a bottle, a by-product or a waiting vessel must say, as PDF in several sizes and as plain lines for a label printer."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from html import escape

from django.conf import settings

from ulsek.core.hazards import FOLLOW
from ulsek.core.refusals import Refusal
from ulsek.core.run import RunState
from ulsek.core.say import amount, of
from ulsek.core.vocabulary import doing
from ulsek.team.access import Member

from .folding import moment, waiting_of
from .models import Lot, Run

SIZES = {"100x70": (100, 70), "62x100": (62, 100), "60x40": (60, 40)}
"""Width and height [mm] by name; the first is the usual one."""
MOST_LABELS = 200
_FONTS = settings.ROOT / "web" / "node_modules" / "@fontsource-variable"
_STYLE = f"""
@font-face {{ font-family: Text; src: url(file://{_FONTS}/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2); font-weight: 200 800; }}
@font-face {{ font-family: Head; src: url(file://{_FONTS}/bricolage-grotesque/files/bricolage-grotesque-latin-wght-normal.woff2); font-weight: 200 800; }}
body {{ font-family: Text, sans-serif; font-size: 8.5pt; line-height: 1.25; color: #13223A; margin: 0; }}
section {{ page-break-after: always; position: relative; }} section:last-child {{ page-break-after: auto; }}
h1 {{ font-family: Head, sans-serif; font-size: 15pt; line-height: 1.05; margin: 0 26mm 1mm 0; }}
.code {{ position: absolute; top: 0; right: 0; width: 23mm; text-align: center; font-size: 8pt; }}
.code img {{ width: 23mm; height: 23mm; display: block; }}
.strong {{ border: 0.5mm solid #13223A; border-radius: 2mm; padding: 1mm 2mm; margin: 1.5mm 0; font-size: 12pt; font-weight: 700; }}
p {{ margin: 0 0 0.8mm; }} .line {{ font-size: 7.6pt; }}
"""
_SMALL = "h1 { font-size: 11pt; margin-right: 16mm } .code, .code img { width: 14mm; height: auto } .strong { font-size: 9pt; margin: 1mm 0 } .line { font-size: 6pt; line-height: 1.15 }"


@dataclass(frozen=True)
class Label:
    """What one label says: a title, what must be seen first (`strong`), and the rest; the code leads to `address`."""

    code: str
    address: str
    title: str
    strong: tuple[str, ...]
    lines: tuple[str, ...]
    vital: tuple[str, ...] = ()
    """The lines that even the smallest label carries."""

    def plain(self, size: str) -> list[str]:
        """The label in the printer's own lines (docs/formats/instruments.md)."""
        strong = [f"strong {text}" for text in (self.title, *self.strong)]
        return [f"label {self.code} {size}", *strong, *(f"line {text}" for text in self.lines), f"code {self.address}"]


def address(lot: Lot) -> str:
    """Where the code on the bottle leads."""
    return f"{settings.BASE_ADDRESS}/lots/{lot.code}"


def _figures(lot: Lot) -> str:
    final = lot.final
    if not final:
        return ""
    measured = {reading["property"]: reading["value"] for reading in final.get("readings", []) if reading["agrees"]}
    brix, acid = (
        f"{of(name, measured[name])} read" if name in measured else f"{of(other, final[other]['value'])} predicted"
        for name, other in (("brix_reading", "brix"), ("acid_g_100ml", "acid_g_100ml"))
    )
    abv = final["abv"]["value"]
    strength = f" · {of('abv', abv)}" if abv else ""
    return f"{brix} · acid {acid}{strength}"


def lot_label(member: Member, lot: Lot) -> Label:
    """What the bottles, or the tub of a by-product, must say."""
    withdrawn = lot.run.version.withdrawal.why if hasattr(lot.run.version, "withdrawal") else ""
    strong = [
        *([f"WITHDRAWN: do not serve. {withdrawn}"] if withdrawn else []),
        *([f"RECALLED: do not serve. {lot.recalled}"] if lot.recalled else []),
        *([f"Not before {member.local(lot.ready_at):%a %d %b %H:%M}: {lot.ready_why}"] if lot.ready_at else []),
        f"Use by {lot.use_by:%a %d %b %Y}",
    ]
    held = amount(lot.amount, lot.unit, 0) + (f" in {amount(lot.bottle_ml, 'mL', 0)} bottles" if not lot.what else "")
    made = f"made {member.local(lot.made_at):%a %d %b %Y %H:%M} by {lot.made_by}"
    keep = f"Keep at {lot.keep_c:g} °C or colder."
    allergens = f"Allergens: {', '.join(lot.allergens) if lot.allergens else 'none known in what went in'}"
    cautions = [f"Caution: {caution}" for caution in lot.cautions]
    lines = [
        f"version {lot.version_number} · {held}",
        made,
        *([_figures(lot)] if lot.final else []),
        *([lot.off_spec] if lot.off_spec else []),
        f"{lot.use_by_reason} {keep}",
        allergens,
        *cautions,
        f"{FOLLOW} {member.house.name}.",
    ]
    return Label(lot.code, address(lot), lot.name, tuple(strong), tuple(lines), (made, keep, allergens, *cautions))


def waiting_label(member: Member, run: Run, state: RunState) -> Label:
    """What a vessel that waits must say, from when its wait begins. Refuses a batch that does not wait."""
    waiting = waiting_of(state)
    step = state.current
    if waiting is None or step is None:
        raise Refusal(f"{run.code} does not wait", "run", remedy="Start its clock first", code="not_waiting")
    until = member.local(moment(waiting["until"]))
    vessel = state.spec.vessels[step.vessel].name
    hazards = state.evaluation.hazards
    lines = [
        f"batch {run.code}, version {run.version.number} · {vessel}",
        f"since {member.local(moment(waiting['since'])):%a %d %b %H:%M}, {state.events[-1].by}",
        *([f"Done when: {step.check}"] if step.check else []),
        f"Allergens: {', '.join(hazards.allergens) if hazards.allergens else 'none known in what went in'}",
        *(f"Caution: {caution}" for caution in hazards.cautions),
        f"{member.house.name}.",
    ]
    strong = (f"{doing(step.verb)} until {until:%a %d %b %H:%M}", "NOT FINISHED: do not pour")
    return Label(run.code, f"{settings.BASE_ADDRESS}/make/{run.pk}", state.spec.name, strong, tuple(lines))


def checked_size(size: str) -> tuple[int, int]:
    """Width and height [mm] of a size. Refuses one that there is not."""
    if size not in SIZES:
        raise Refusal(f"There is no label of size “{size}”", "size", f"there are {', '.join(SIZES)}", code="unknown_reference")
    return SIZES[size]


def _section(label: Label, small: bool) -> str:
    import segno

    code = segno.make(label.address, error="m").svg_data_uri(scale=4, border=1)
    strong = "".join(f'<div class="strong">{escape(text)}</div>' for text in label.strong)
    lines = "".join(f'<p class="line">{escape(text)}</p>' for text in ((label.vital or label.lines) if small else label.lines))
    return f'<section><div class="code"><img src="{code}" alt=""><b>{escape(label.code)}</b></div><h1>{escape(label.title)}</h1>{strong}{lines}</section>'


def labels_pdf(labels: Sequence[Label], size: str = "100x70") -> bytes:
    """One page for each label. Refuses a size that there is not, and more than `MOST_LABELS`."""
    from weasyprint import HTML

    width, height = checked_size(size)
    if not 0 < len(labels) <= MOST_LABELS:
        raise Refusal(f"{len(labels)} labels cannot be printed", "copies", f"from 1 to {MOST_LABELS}", code="out_of_bounds")
    page = f"@page {{ size: {width}mm {height}mm; margin: {4 if height > 50 else 2}mm }}"
    small = width * height < 5000
    names = escape(", ".join(dict.fromkeys(label.code for label in labels)))
    body = "".join(_section(label, small) for label in labels)
    whole = f"<!doctype html><html lang='en'><title>{names}</title><style>{_STYLE}{page}{_SMALL if small else ''}</style><body>{body}</body></html>"
    return HTML(string=whole).write_pdf()  # type: ignore[no-any-return]
