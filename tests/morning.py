"""A clock that stands at ten in the morning whenever a test runs, so that the day lies ahead."""

from datetime import UTC, datetime


def at_ten():
    """The zone in which it is between ten and eleven in the morning now."""
    ahead = (10 - datetime.now(UTC).hour + 24) % 24
    return f"Etc/GMT{-(ahead if ahead <= 14 else ahead - 24):+d}"
