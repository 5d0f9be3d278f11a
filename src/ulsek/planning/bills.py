"""Bills of materials of the house's specs, computed once for each version."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from functools import lru_cache

from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.pour_cost import Bill, bill_of
from ulsek.specs.models import Spec, Version
from ulsek.specs.queries import version_evaluated


@lru_cache(maxsize=8192)
def _computed_bill(version: int, at: datetime) -> Bill:
    """Returns the bill of materials of a version, cached: a published version never changes, and `at` tells it from one of another database. Raises Refusal as `bill_of` does."""
    return bill_of(version_evaluated(Version.objects.select_related("spec__house").get(pk=version, at=at)))


def bill_of_version(version: int, at: datetime) -> Bill | None:
    """Returns the bill of materials of a version; None if it cannot be evaluated by the rules of today."""
    try:
        return _computed_bill(version, at)
    except Refusal:
        return None


def bills_of(specs: Iterable[Spec]) -> dict[str, Bill]:
    """Returns the bills of the newest versions of published specs, by the id of the spec; specs that cannot be evaluated are omitted."""
    found = {str(spec.pk): bill_of_version(spec.newest.pk, spec.newest.at) for spec in specs if spec.newest is not None}
    return {key: bill for key, bill in found.items() if bill is not None and bill.serves > 0}
