"""Names of samples inside one panel."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

_BETWEEN = ", "


def short_names(names: Sequence[str]) -> tuple[str, ...]:
    """Returns the names as they are told apart inside one panel: what several share before their first comma is left out where the rest still differs.

    "Quince syrup, version 2" beside "Quince syrup, version 3" is "version 2"; beside "Birch syrup, version 2" each keeps its whole name.
    """
    heads = Counter(name.partition(_BETWEEN)[0] for name in names if _BETWEEN in name)
    short = [name.partition(_BETWEEN)[2] if heads[name.partition(_BETWEEN)[0]] > 1 else name for name in names]
    taken = Counter(short)
    return tuple(own if taken[own] == 1 else whole for own, whole in zip(short, names, strict=True))
