"""Numbers for codes: given by a row of their own, never by counting."""

from __future__ import annotations

from .locks import locked
from .models import House, Series


def locked_series(house: House, name: str) -> Series:
    """A series of the house, locked alone until the action ends: whoever wants its next number waits. The last lock of an action."""
    Series.objects.get_or_create(house=house, name=name)
    return locked(Series.objects.filter(house=house, name=name))[0]


def next_number(series: Series) -> int:
    """The next number of a locked series, from 1. An action that is rolled back gives its number back."""
    series.last += 1
    series.save(update_fields=["last"])
    return series.last
