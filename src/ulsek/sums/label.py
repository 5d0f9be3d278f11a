"""The label of what was made by a sum: a solution, a blend, a jar of dosed juice."""

from __future__ import annotations

from urllib.parse import urlencode

from django.conf import settings
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.number_format import amount, figure
from ulsek.core.base.refusals import Refusal
from ulsek.core.sums.acids import CONCENTRATE_G_100ML
from ulsek.core.sums.catalogue import SUMS
from ulsek.core.sums.sheet import Answers
from ulsek.devices.label import Label
from ulsek.team.access import Member

from .queries import answer_of


def sum_label(member: Member, name: str, figures: Answers) -> Label:
    """What the bottle must say: what is in it, who made it when, and that an acid stock is no drink. Refuses a sum that puts nothing in a bottle."""
    answer = answer_of(member.house, name, figures)
    if not answer.parts:
        raise Refusal(
            message("This sum makes nothing to label"), "name", remedy=message("Label the batch instead"), code="nothing_to_label"
        )
    inside = ", ".join(f"{part.name.text().lower()} {amount(part.amount, part.unit, 1)}" for part in answer.parts)
    strength = next((item.value for item in answer.figures if item.name.text() == "titratable, as citric"), 0.0)
    acids = [part.name.text() for part in answer.parts if part.kind == "acid"]
    stock = name in ("acid_solution", "mimic") and strength >= CONCENTRATE_G_100ML
    title = f"Acid stock {figure(strength, 0)} g/100 mL" if name in ("acid_solution", "mimic") else SUMS[name].about.text()
    strong = ("CONCENTRATE, NOT A DRINK", "Own dosing tool; goggles and gloves") if stock else ()
    made = f"made {member.local(timezone.now()):%a %d %b %Y %H:%M} by {member.person}"
    lines = [made, inside, *([f"Acids: {', '.join(acids)}"] if acids else []), f"{member.house.name}. Date it off by your house's rule."]
    where = urlencode({"sum": name, **{f"s.{key}": value for key, value in figures.items() if value not in (None, "")}})
    return Label("SUM", f"{settings.BASE_ADDRESS}/shift?{where}", title, strong, tuple(lines), (made,))
