"""Delivery terms of the suppliers of a house."""

from __future__ import annotations

from collections.abc import Mapping

from ulsek.core.base.vocabulary import plain
from ulsek.core.planning.ordering import SupplierTerms
from ulsek.team.models import House

from .models import Terms


def terms_of(house: House) -> Mapping[str, SupplierTerms]:
    """Returns the stored terms by the plain name of the supplier (see `plain`), as deliveries name it. Suppliers without terms are omitted: the usual ones apply."""
    return {plain(row.supplier.name): row.terms for row in Terms.objects.filter(supplier__house=house).select_related("supplier")}
