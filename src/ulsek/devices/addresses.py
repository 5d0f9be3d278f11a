"""The serial ports and addresses that this site may open."""

from __future__ import annotations

from fnmatch import fnmatchcase

from django.conf import settings


def is_allowed(address: str) -> bool:
    """Returns True if the operator allows an instrument's address, by the patterns of ULSEK_INSTRUMENT_ADDRESSES."""
    return any(fnmatchcase(address, pattern) for pattern in settings.INSTRUMENT_ADDRESSES)
