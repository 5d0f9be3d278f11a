"""Numbers for codes, assigned by a row of their own, never by counting."""

from __future__ import annotations

from .locks import locked
from .models import House, Series


def locked_series(house: House, name: str) -> Series:
    """Returns a series of the house, locked alone until the action ends: others that need its next number wait. The last lock of an action."""
    Series.objects.get_or_create(house=house, name=name)
    return locked(Series.objects.filter(house=house, name=name))[0]


def next_number(series: Series) -> int:
    """Returns the next number of a locked series, from 1. An action that is rolled back returns its number."""
    series.last += 1
    series.save(update_fields=["last"])
    return series.last
