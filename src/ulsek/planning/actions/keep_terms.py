"""Set when a supplier delivers."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404

from ulsek.core.planning.ordering import SupplierTerms, checked_terms
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import RegisterRow

from ..models import Terms


@action
def keep_terms(member: Member, entry_id: UUID, terms: SupplierTerms) -> Terms:
    """Stores the delivery terms of a supplier and returns the row. Raises Http404 if the register has no such supplier, and Refusal as `checked_terms` does."""
    checked_terms(terms)
    row = get_object_or_404(RegisterRow, house=member.house, kind="supplier", pk=entry_id)
    said = {"weekdays": sorted(terms.weekdays), "cut_off": terms.cut_off, "lead_days": terms.lead_days, "arrives": terms.arrives}
    found, _ = Terms.objects.update_or_create(supplier=row, defaults=said)
    member.wrote("keep_terms", row.name)
    return found
