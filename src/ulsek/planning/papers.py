"""Today's list on paper, as text to be sent, and as a calendar."""

from __future__ import annotations

from datetime import datetime
from html import escape

from icalendar import Calendar, Event

from ulsek.core.base.messages import Computed
from ulsek.core.planning.day_list import ListLine, bottles_words
from ulsek.devices.faces import FACES
from ulsek.team.access import Member

from .schemas import TodayOut

STYLE = f"""
{FACES}
@page {{ size: A4; margin: 14mm 14mm; }}
body {{ font-family: Text, sans-serif; font-size: 11pt; line-height: 1.3; color: #13223A; margin: 0; }}
h1 {{ font-family: Head, sans-serif; font-size: 22pt; line-height: 1.1; margin: 0 0 1mm; }} h2 {{ font-family: Head, sans-serif; font-size: 14pt; margin: 7mm 0 1mm; }}
.quiet {{ color: #44556A; }} table {{ width: 100%; border-collapse: collapse; margin-top: 4mm; }}
td {{ border-top: .3mm solid #1B3A6B; padding: 2.2mm 2mm 2.2mm 0; vertical-align: top; }} tr {{ page-break-inside: avoid; }} b {{ font-size: 13pt; }}
i {{ display: inline-block; width: 6mm; height: 6mm; border: .4mm solid #1B3A6B; border-radius: 3mm; }} .of {{ font-size: 9.5pt; color: #44556A; }} .late {{ font-weight: 700; }}
"""


def _bottles(line: ListLine) -> str:
    return str(bottles_words(line.bottles, line.makes_ml))


def _who(line: ListLine) -> str:
    return line.hands[0].name if line.hands and line.hands[0].name else ""


def list_html(member: Member, today: TodayOut) -> str:
    """Returns the list as a page of HTML, to be made a PDF."""
    rows = "".join(
        f"<tr><td style='width:9mm'><i></i></td><td><b>{escape(line.name)}</b><br><span class='of'>{escape(str(line.why[0]))}</span></td>"
        f"<td>{escape(_bottles(line))}</td><td>start by<br><b>{line.start_by:%H:%M}</b></td><td>{escape(_who(line))}</td></tr>"
        for line in today.list.lines
    )
    missed = "".join(f"<p class='late'>{escape(str(one.what))} {escape(str(one.nearest))}</p>" for one in today.list.missed)
    orders = "".join(
        f"<h2>{escape(order.supplier)}</h2><p class='quiet'>{_by(order.order_by)}</p>"
        + "".join(f"<p>{line.packs} × {Computed(line.pack_g / 1000.0, 'kg', 2)} {escape(line.name)}</p>" for line in order.lines)
        for order in today.orders
    )
    day = f"{today.list.now:%A %d %B}"
    return (
        f"<html lang='en'><head><title>To make, {day}</title><style>{STYLE}</style></head><body><h1>{day}</h1>"
        f"<p class='quiet'>{escape(member.house.name)} · {escape(str(today.list.said))} · as of {today.list.now:%H:%M}</p>"
        f"<table>{rows}</table>{missed}{'<h2>To order</h2>' + orders if orders else ''}</body></html>"
    )


def _by(order_by: datetime | None) -> str:
    return "" if order_by is None else f"order by {order_by:%A %H:%M}"


def list_text(member: Member, today: TodayOut) -> str:
    """Returns the list as plain text, short enough for a message."""
    lines = [f"{member.house.name}, {today.list.now:%A %d %B}: {today.list.said}"]
    lines += [
        f"{line.start_by:%H:%M} {line.name}, {_bottles(line)}" + (f", {_who(line)}" if _who(line) else "") for line in today.list.lines
    ]
    lines += [f"! {one.what} {one.nearest}" for one in today.list.missed]
    for order in today.orders:
        wanted = ", ".join(f"{line.packs} × {Computed(line.pack_g / 1000.0, 'kg', 2)} {line.name}" for line in order.lines)
        lines.append(f"{order.supplier}, {_by(order.order_by)}: {wanted}")
    return "\n".join(lines) + "\n"


def list_calendar(member: Member, today: TodayOut) -> bytes:
    """Returns the list as iCalendar (RFC 5545): an entry for each time that a batch needs hands."""
    calendar = Calendar()
    calendar.add("prodid", "-//Ulsek//list//EN")
    calendar.add("version", "2.0")
    for line in today.list.lines:
        for number, part in enumerate(line.hands):
            event = Event()
            event.add("uid", f"{member.house.pk}-{today.list.day:%Y%m%d}-{line.key}-{number}@ulsek")
            event.add("dtstamp", today.list.now)
            event.add("dtstart", part.from_at)
            event.add("dtend", part.until_at)
            event.add(
                "summary",
                (f"{line.name}, {_bottles(line)}" if number == 0 else f"{line.name}: go on") + (f" ({part.name})" if part.name else ""),
            )
            event.add("description", "\n".join(str(one) for one in line.why))
            calendar.add_component(event)
    return calendar.to_ical()  # type: ignore[no-any-return]
