"""Labels of what was made by a sum: a solution, a blend, a jar of dosed juice."""

from __future__ import annotations

from urllib.parse import urlencode

from django.conf import settings
from django.utils import timezone

from ulsek.core.sums.bottle_label import bottle_words
from ulsek.core.sums.catalogue import SUMS
from ulsek.core.sums.sheet import Answers
from ulsek.devices.label import Label
from ulsek.team.access import Member

from .queries import answer_of


def sum_label(member: Member, name: str, figures: Answers) -> Label:
    """Returns the label of the bottle: its contents, maker and date, and a warning on an acid stock. Raises Refusal for a sum that puts nothing in a bottle."""
    answer = answer_of(member.house, name, figures)
    words = bottle_words(SUMS[name], answer)
    made = f"made {member.local(timezone.now()):%a %d %b %Y %H:%M} by {member.person}"
    acids = [words.acids.text()] if words.acids else []
    lines = [made, words.inside.text(), *acids, f"{member.house.name}. Date it off by your house's rule."]
    where = urlencode({"sum": name, **{f"s.{key}": value for key, value in figures.items() if value not in (None, "")}})
    strong = tuple(item.text() for item in words.warnings)
    return Label("SUM", f"{settings.BASE_ADDRESS}/shift?{where}", words.title.text(), strong, tuple(lines), (made,))
